<script setup lang="ts" generic="Row extends object">
import Button from 'primevue/button'
import DataTable, { type DataTableSortEvent } from 'primevue/datatable'
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { counted, numberWords } from './words.ts'

/**
 * A table of what is defined or saved: a row is selected by focus or click, opened with Enter, and arrows go from row to row. Its
 * columns are PrimeVue’s `Column`s in the slot. Of very many rows the first are made; more follow as one comes to their end.
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
const emit = defineEmits<{ open: [Row]; choose: [Row] }>()
const table = ref<{ readonly $el: HTMLElement }>()

const keyOf = (row: Row): string => String((row as Readonly<Record<string, unknown>>)[by])

/** by which column the rows are ordered; by none as they come */
const order = ref<{
  readonly sortField?: DataTableSortEvent['sortField']
  readonly sortOrder?: DataTableSortEvent['sortOrder']
}>({})
const words = new Intl.Collator('en', { numeric: true })

type Field = string | ((row: Row) => string)

/** The value of a row that a column is ordered by: a path such as `owner.title`, or what a function makes of the row. */
const valueOf = (row: Row, field: Field): unknown =>
  typeof field === 'function'
    ? field(row)
    : field
        .split('.')
        .reduce<unknown>((value, part) => (value as Record<string, unknown> | null)?.[part], row)
const textOf = (row: Row, field: Field): string => {
  const value = valueOf(row, field) ?? ''
  return typeof value === 'object' ? JSON.stringify(value) : String(value as string | number)
}

/** All rows in their order. The library would order only those that are made. */
const ordered = computed(() => {
  const { sortField: field, sortOrder: direction } = order.value
  if (!field || !direction) return rows
  return rows.toSorted(
    (a, b) => direction * words.compare(textOf(a, field as Field), textOf(b, field as Field)),
  )
})

/** Rows that Page Up and Page Down go over. */
const page = 12
const at = computed(() =>
  Math.max(
    0,
    ordered.value.findIndex((one) => keyOf(one) === selected.value),
  ),
)

/** How many rows are made at a time: a thousand at once would keep the page waiting. */
const atATime = 200
const made = ref(atATime)
watch(
  () => rows.length,
  () => (made.value = atATime),
)
const shown = computed(() => ordered.value.slice(0, Math.max(made.value, at.value + 1)))
const left = computed(() => rows.length - shown.value.length)
const more = (): number => (made.value = shown.value.length + atATime)

/** What comes into sight at the end of the rows makes the next ones. */
const end = useTemplateRef<HTMLElement>('end')
const sight = new IntersectionObserver((entries) => {
  if (entries.some((one) => one.isIntersecting)) more()
})
watch(end, (element, before) => {
  if (before) sight.unobserve(before)
  if (element) sight.observe(element)
})
onBeforeUnmount(() => sight.disconnect())

async function go(index: number): Promise<void> {
  const within = Math.min(rows.length - 1, Math.max(0, index))
  if (within >= shown.value.length) {
    made.value = within + 1
    await nextTick()
  }
  table.value!.$el.querySelector<HTMLElement>(`tr[data-p-index="${within}"]`)?.focus()
}

const steps: Readonly<Record<string, (index: number) => unknown>> = {
  ArrowDown: (index) => go(index + 1),
  ArrowUp: (index) => go(index - 1),
  Home: () => go(0),
  End: () => go(rows.length - 1),
  PageDown: (index) => go(index + page),
  PageUp: (index) => go(index - page),
  Enter: (index) => emit('open', ordered.value[index]!),
  ' ': (index) => emit('choose', ordered.value[index]!),
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
    :value="shown"
    :data-key="by"
    table-class="ledger"
    :row-class="rowClass"
    :table-props="{ 'aria-label': label, 'aria-rowcount': rows.length + 1 }"
    :pt="parts"
    lazy
    removable-sort
    :sort-field="order.sortField"
    :sort-order="order.sortOrder ?? 0"
    @sort="order = $event"
  >
    <slot />
  </DataTable>
  <div v-if="left > 0" ref="end" class="end">
    <Button
      severity="secondary"
      size="small"
      :label="`Show more: ${counted(left, 'row')} of ${numberWords(rows.length)} are left`"
      @click="more"
    />
  </div>
</template>

<style scoped>
.end {
  padding: 10px 0;
}
</style>
