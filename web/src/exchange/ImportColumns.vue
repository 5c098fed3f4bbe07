<script setup lang="ts">
import type { ImportAnswer } from '@bluestem/core/exchange'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from '../parts/Choice.vue'
import { changeable } from '../parts/manyParts.ts'

/** What each column of a file becomes, with its first values; how days are written; by which field a row finds the item it changes. */
type Reading = ImportAnswer['reading']
const reading = defineModel<Reading>({ required: true })
const { columns, links } = defineProps<{
  columns: ImportAnswer['columns']
  links: ImportAnswer['links']
}>()
const vocabulary = useVocabulary()

const rows = computed(() => columns.map((column, index) => ({ ...column, index })))
const targets = computed(() => [
  { id: 'ref', title: 'Ref: the item it changes' },
  ...vocabulary.columns
    .filter(
      (column) =>
        changeable(column) || column.handle === 'title' || column.handle === 'description',
    )
    .map(({ handle, title }) => ({ id: handle, title })),
  ...links.map(({ target, words }) => ({ id: target, title: `Link: ${words}` })),
])
function become(index: number, target: string): void {
  const next = reading.value.columns.map((column, at) => {
    if (at === index) return target === '' ? null : target
    return column === target ? null : column
  })
  const { key } = reading.value
  reading.value = { ...reading.value, columns: next, key: key && next.includes(key) ? key : null }
}

/** Fields whose values can tell rows apart. */
const keys = computed(() =>
  reading.value.columns.flatMap((target) => {
    const property = target === null ? undefined : vocabulary.property(target)
    const tells = property?.type.kind === 'text' || property?.type.kind === 'number'
    return property && tells && !property.builtIn
      ? [{ id: property.handle, title: property.title }]
      : []
  }),
)
const hasDays = computed(() =>
  reading.value.columns.some(
    (target) => target !== null && vocabulary.property(target)?.type.kind === 'date',
  ),
)
const orders = [
  { id: 'YMD' as const, title: 'year, month, day' },
  { id: 'DMY' as const, title: 'day, month, year' },
  { id: 'MDY' as const, title: 'month, day, year' },
]
</script>

<template>
  <DataTable
    :value="rows"
    data-key="index"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What the columns become' }"
  >
    <Column header="Column" class="nowrap">
      <template #body="{ data: column }"
        ><b>{{ column.heading || '(no heading)' }}</b></template
      >
    </Column>
    <Column header="Holds">
      <template #body="{ data: column }"
        ><span class="quiet">{{ column.samples.join(' · ') || 'nothing' }}</span></template
      >
    </Column>
    <Column header="Becomes" class="becomes">
      <template #body="{ data: column }">
        <Choice
          :model-value="reading.columns[column.index] ?? ''"
          :label="`${column.heading} becomes`"
          none="is left out"
          :options="targets"
          @update:model-value="become(column.index, $event)"
        />
      </template>
    </Column>
  </DataTable>
  <div class="row more">
    <label v-if="hasDays"
      ><span class="quiet">Days are written as</span>
      <Choice
        :model-value="reading.days"
        label="How days are written"
        inline
        :options="orders"
        @update:model-value="$event && (reading = { ...reading, days: $event })"
    /></label>
    <label v-if="keys.length"
      ><span class="quiet">Rows are told apart by</span>
      <Choice
        :model-value="reading.key ?? ''"
        label="What tells rows apart"
        none="nothing: each makes an item"
        inline
        :options="keys"
        @update:model-value="reading = { ...reading, key: $event || null }"
    /></label>
  </div>
</template>

<style scoped>
:deep(.becomes) {
  width: 280px;
}
.more {
  gap: 24px;
  margin: 10px 0;
}
.more label {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
