<script setup lang="ts" generic="Row extends SpanAnswer">
import type { SpanAnswer } from '@bluestem/core/iterations'
import Column from 'primevue/column'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../session/session.store.ts'
import DoneBar from '../parts/DoneBar.vue'
import Ledger from '../parts/Ledger.vue'
import { daysWords } from './words.ts'

/** Iterations or releases: what runs stands first, then what comes next, then what is over, the latest first. */
const { rows, label, what, whose, path } = defineProps<{
  rows: readonly Row[]
  label: string
  /** the word for one of them */
  what: string
  /** whose one is, in words */
  whose: (row: Row) => string
  /** where their pages are */
  path: string
}>()
const session = useSession()
const router = useRouter()
const selected = ref<string>()
const states = ['running', 'planned', 'finished']
const from = ({ start, end }: Row): string => start ?? end ?? '9'
const ordered = computed(() =>
  rows.toSorted((a, b) => {
    const byDay = from(a).localeCompare(from(b))
    return (
      states.indexOf(a.state) - states.indexOf(b.state) || (a.state === 'finished' ? -byDay : byDay)
    )
  }),
)
const open = ({ id }: Row): void => void router.push(`${path}/${id}`)
</script>

<template>
  <Ledger
    v-model:selected="selected"
    :rows="ordered"
    :label="label"
    :mark="(row) => ({ over: row.state === 'finished' })"
    @open="open"
  >
    <Column :header="what" sortable sort-field="title">
      <template #body="{ data: row }: { data: Row }"
        ><RouterLink :to="`${path}/${row.id}`" tabindex="-1">{{ row.title }}</RouterLink></template
      >
    </Column>
    <Column header="Whose" sortable :sort-field="whose">
      <template #body="{ data: row }: { data: Row }">{{ whose(row) }}</template>
    </Column>
    <Column header="Days" sortable sort-field="start" class="nowrap">
      <template #body="{ data: row }: { data: Row }">{{ daysWords(row, session.now) }}</template>
    </Column>
    <Column header="State" field="state" sortable class="nowrap" />
    <Column header="Done" class="nowrap">
      <template #body="{ data: row }: { data: Row }">
        <DoneBar
          v-if="row.items"
          :done="row.done"
          :of="row.items"
          :label="`Done of ${row.title}`"
        />
        <span v-else class="quiet">nothing in it</span>
      </template>
    </Column>
    <Column header="Goal">
      <template #body="{ data: row }: { data: Row }"
        ><span class="quiet">{{ row.goal }}</span></template
      >
    </Column>
  </Ledger>
</template>
