<script setup lang="ts" generic="Row extends object">
import { asRecord } from '@bluestem/core/known'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable, { type DataTableSortEvent } from 'primevue/datatable'
import {
  computed,
  h,
  nextTick,
  onBeforeUnmount,
  ref,
  type SetupContext,
  useTemplateRef,
  watch,
} from 'vue'
import { columnsIn, columnsWanted, headerOf } from './columnsIn.ts'
import ColumnWishes from './ColumnWishes.vue'
import { chosenFrom, type ColumnWishes as Wishes, useColumnWishes } from './columnWishes.ts'
import { orderedBy } from './ordering.ts'
import { isOfRow, rowStep } from './rowSteps.ts'
import { counted, numberWords } from './words.ts'

/**
 * A table of what is defined or saved: a row is selected by focus or click, opened with Enter, and arrows go from row to row. Its
 * columns are PrimeVue’s `Column`s in the slot; which of them are seen, and how wide, is chosen in the head. Of very many rows
 * the first are made; more follow as one comes to their end.
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
const selected = defineModel<string>('selected', { default: '' })
const emit = defineEmits<{ open: [Row]; choose: [Row] }>()
const table = ref<HTMLElement>()

const keyOf = (row: Row): string => String(asRecord(row)[by])

/** by which column the rows are ordered; by none as they come */
const order = ref<{
  readonly sortField?: DataTableSortEvent['sortField']
  readonly sortOrder?: DataTableSortEvent['sortOrder']
}>({})
type Field = string | ((row: Row) => string)

/** The value of a row that a column is ordered by: a path such as `owner.title`, or what a function makes of the row. */
const valueOf = (row: Row, field: Field): unknown =>
  typeof field === 'function'
    ? field(row)
    : field.split('.').reduce<unknown>((value, part) => asRecord(value)[part], row)
const textOf = (row: Row, field: Field): string => {
  const value = valueOf(row, field) ?? ''
  return typeof value === 'string' ? value : JSON.stringify(value)
}

/** All rows in their order. The library would order only those that are made. */
const ordered = computed(() => {
  const { sortField: field, sortOrder: direction } = order.value
  if (!field || !direction) return rows
  // The library types a field as text or any function; ours take a row.
  return orderedBy(rows, (row) => textOf(row, field as Field), direction > 0 ? 1 : -1)
})

const at = computed(() =>
  Math.max(
    0,
    ordered.value.findIndex((entry) => keyOf(entry) === selected.value),
  ),
)

/** How many rows are made at a time: hundreds at once would keep the page waiting. */
const atATime = 24
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
const sight = new IntersectionObserver(
  (entries) => {
    if (entries.some((entry) => entry.isIntersecting)) more()
  },
  { rootMargin: '200px' },
)
watch(end, (element, before) => {
  if (before) sight.unobserve(before)
  if (element) sight.observe(element)
})
onBeforeUnmount(() => sight.disconnect())

async function go(index: number): Promise<void> {
  if (index >= shown.value.length) {
    made.value = index + 1
    await nextTick()
  }
  table.value?.querySelector<HTMLElement>(`tr[data-p-index="${index}"]`)?.focus()
}

function keys(event: KeyboardEvent, index: number): void {
  if (!isOfRow(event)) return
  const to = rowStep(event, index, rows.length)
  const row = ordered.value[index]
  if (to !== undefined) void go(to)
  else if (event.key === 'Enter' && row) emit('open', row)
  else if (event.key === ' ' && row) emit('choose', row)
  else return
  event.preventDefault()
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
const wishes = useColumnWishes(label)

const widthOf = (header: string): number =>
  [...(table.value?.querySelectorAll('th') ?? [])].find(
    (entry) => entry.textContent?.trim() === header,
  )?.offsetWidth ?? 0

let headers: readonly string[] = []
/** Where columns are chosen. The library takes a head for another component, and makes it anew, where this is another function. */
const head = () =>
  h(ColumnWishes, {
    modelValue: wishes.value,
    'onUpdate:modelValue': (wanted: Wishes) => (wishes.value = wanted),
    headers,
    label,
    widthOf,
  })

/** The library’s table with the columns that are to be seen, and at its end the place where they are chosen. */
function Table(attributes: object, { slots }: Pick<SetupContext, 'slots'>) {
  const filled = (): unknown => {
    const columns = columnsIn(slots['default']?.() ?? [])
    headers = columns.flatMap((column) => headerOf(column) ?? [])
    if (headers.length < chosenFrom) return columns
    const end = h(Column, { columnKey: 'chooser', class: 'chooser' }, { header: head })
    return [...columnsWanted(columns, wishes.value), end]
  }
  return h(DataTable, attributes, { default: filled })
}

const rowClass = (row: Row): unknown[] => [{ selected: keyOf(row) === selected.value }, mark?.(row)]
</script>

<template>
  <Table
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
  </Table>
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
