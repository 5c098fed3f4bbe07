<script setup lang="ts" generic="Row extends object">
import DataTable from 'primevue/datatable'
import { computed, ref } from 'vue'

/**
 * A table of what is defined or saved: a row is selected by focus or click, opened with Enter, and arrows go from row to row. Its
 * columns are PrimeVue’s `Column`s in the slot.
 */
const {
  rows,
  label,
  mark,
  by = 'id',
} = defineProps<{
  rows: readonly Row[]
  label: string
  /** more classes of a row */
  mark?: (row: Row) => unknown
  /** the property that tells rows apart */
  by?: string
}>()
const selected = defineModel<string | undefined>('selected')
const emit = defineEmits<{ open: [Row] }>()
const table = ref<{ readonly $el: HTMLElement }>()

const keyOf = (row: Row): string => String((row as Readonly<Record<string, unknown>>)[by])

/** Rows that Page Up and Page Down go over. */
const page = 12
const at = computed(() =>
  Math.max(
    0,
    rows.findIndex((one) => keyOf(one) === selected.value),
  ),
)

function go(index: number): void {
  const within = Math.min(rows.length - 1, Math.max(0, index))
  table.value!.$el.querySelector<HTMLElement>(`tr[data-p-index="${within}"]`)?.focus()
}

const steps: Readonly<Record<string, (index: number) => void>> = {
  ArrowDown: (index) => go(index + 1),
  ArrowUp: (index) => go(index - 1),
  Home: () => go(0),
  End: () => go(rows.length - 1),
  PageDown: (index) => go(index + page),
  PageUp: (index) => go(index - page),
  Enter: (index) => emit('open', rows[index]!),
}

function keys(event: KeyboardEvent, index: number): void {
  const step = steps[event.key]
  const isOfRow = event.target === event.currentTarget
  if (!step || !isOfRow || event.altKey || event.ctrlKey || event.metaKey) return
  event.preventDefault()
  step(index)
}

/** The library’s own selection would swallow every key on a row, so rows get theirs here. */
function rowParts(row: Row, index: number): object {
  return {
    tabindex: index === at.value ? 0 : -1,
    'aria-selected': keyOf(row) === selected.value,
    onFocus: () => (selected.value = keyOf(row)),
    onClick: () => (selected.value = keyOf(row)),
    onKeydown: (event: KeyboardEvent) => keys(event, index),
  }
}
interface RowOfLibrary {
  readonly props: { readonly rowData?: Row }
  readonly context: { readonly index: number }
}
const parts = {
  bodyRow: ({ props, context }: RowOfLibrary) =>
    props.rowData ? rowParts(props.rowData, context.index) : {},
}
const rowClass = (row: Row): unknown[] => [{ selected: keyOf(row) === selected.value }, mark?.(row)]
</script>

<template>
  <DataTable
    ref="table"
    :value="[...rows]"
    :data-key="by"
    table-class="ledger"
    :row-class="rowClass"
    :table-props="{ 'aria-label': label, 'aria-rowcount': rows.length + 1 }"
    :pt="parts"
  >
    <slot />
  </DataTable>
</template>
