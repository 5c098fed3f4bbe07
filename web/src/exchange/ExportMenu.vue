<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import type { Format, NewSubscription } from '@bluestem/core/exchange'
import { computed, ref } from 'vue'
import { sortText } from '@bluestem/core/views'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import type { SortBy } from '../parts/segments.ts'
import { saveFile } from './saveFile.ts'
import SubscribeSheet from './SubscribeSheet.vue'

/** Exports all answers of a list as a file, in its columns and its order. */
const {
  filter,
  columns,
  order,
  name,
  asOf = '',
} = defineProps<{
  /** the question, with identities */
  filter: unknown
  columns: readonly string[]
  order: readonly SortBy[]
  /** what the file is called */
  name: string
  asOf?: string
}>()
const notes = useNotes()
const vocabulary = useVocabulary()
const menu = ref<InstanceType<typeof Menu>>()
const isOpen = ref(false)
const busy = ref(false)

/** How a file of each form ends, and what it is. */
const files: Readonly<Record<Format, readonly [ending: string, type: string]>> = {
  csv: ['csv', 'text/csv'],
  json: ['json', 'application/json'],
  icalendar: ['ics', 'text/calendar'],
  atom: ['atom', 'application/atom+xml'],
}

async function exportAs(format: Format, date?: string): Promise<void> {
  busy.value = true
  await notes.attempt(async () => {
    const text = await call('POST /items/export', {
      body: {
        filter,
        kept: true,
        format,
        fields: columns.join(','),
        sort: sortText(order),
        title: date ? `${name}: ${vocabulary.title(date)}` : name,
        ...(date ? { date } : {}),
        ...(asOf ? { 'as-of': asOf } : {}),
      },
    })
    const [ending, type] = files[format]
    saveFile(`${name}.${ending}`, text, type)
  })
  busy.value = false
}
/** the dates of the list, each of which a calendar can show; the day on which items are due where it has none */
const dates = computed(() => {
  const shown = columns.filter((handle) =>
    ['date', 'timestamp'].includes(vocabulary.property(handle)?.type.kind ?? ''),
  )
  return shown.length > 0 ? shown : ['due']
})
const forms = computed(() => [
  { label: 'as CSV, for spreadsheets', command: () => void exportAs('csv') },
  { label: 'as JSON, for programs', command: () => void exportAs('json') },
  ...dates.value.map((date) => ({
    label: `as a calendar of ${vocabulary.title(date)}`,
    command: () => void exportAs('icalendar', date),
  })),
  { label: 'as a feed of what changed', command: () => void exportAs('atom') },
  ...(asOf ? [] : subscribing.value),
])
/** what a program shall read by itself; none while nobody asks for it */
const wanted = ref<NewSubscription>()
const subscribing = computed(() => [
  ...dates.value.map((date) => ({
    label: `subscribe to a calendar of ${vocabulary.title(date)} …`,
    command: () => {
      const title = `${name}: ${vocabulary.title(date)}`
      wanted.value = { filter, format: 'icalendar', date, title }
    },
  })),
  {
    label: 'subscribe to a feed of what changes …',
    command: () => {
      wanted.value = { filter, format: 'atom', title: name }
    },
  },
])
</script>

<template>
  <Button
    severity="secondary"
    label="Export"
    aria-haspopup="menu"
    :aria-expanded="isOpen"
    :disabled="busy"
    @click="menu?.toggle($event)"
  /><Menu
    ref="menu"
    popup
    append-to="#lists"
    :model="forms"
    aria-label="Export"
    @show="isOpen = true"
    @hide="isOpen = false"
  /><SubscribeSheet v-if="wanted" :wanted="wanted" @close="wanted = undefined" />
</template>
