<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { ref } from 'vue'
import { sortText } from '@bluestem/core/views'
import { call } from '../api/http.ts'
import { useNotes } from '../parts/notes.store.ts'
import type { SortBy } from '../parts/ItemTable.vue'
import { saveFile } from './saveFile.ts'

/** Takes the answers of a list out as a file: all of them, in its columns and its order. */
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
const menu = ref<InstanceType<typeof Menu>>()
const isOpen = ref(false)
const busy = ref(false)

async function takeOut(format: 'csv' | 'json'): Promise<void> {
  busy.value = true
  await notes.attempt(async () => {
    const text = await call('POST /items/export', {
      body: {
        filter,
        kept: true,
        format,
        fields: columns.join(','),
        sort: sortText(order),
        ...(asOf ? { 'as-of': asOf } : {}),
      },
    })
    saveFile(`${name}.${format}`, text, format === 'csv' ? 'text/csv' : 'application/json')
  })
  busy.value = false
}
const formats = [
  { label: 'as CSV, for spreadsheets', command: () => void takeOut('csv') },
  { label: 'as JSON, for programs', command: () => void takeOut('json') },
]
</script>

<template>
  <Button
    severity="secondary"
    label="Take out"
    aria-haspopup="menu"
    :aria-expanded="isOpen"
    :disabled="busy"
    @click="menu!.toggle($event)"
  /><Menu
    ref="menu"
    popup
    append-to="#lists"
    :model="formats"
    aria-label="Take out"
    @show="isOpen = true"
    @hide="isOpen = false"
  />
</template>
