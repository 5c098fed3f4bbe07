<script setup lang="ts" generic="Row">
import { ArrowDown, ArrowUp, ArrowUpDown } from '@lucide/vue'
import Checkbox from 'primevue/checkbox'
import { computed, ref } from 'vue'
import ColumnWishes from './ColumnWishes.vue'
import { chosenFrom, useColumnWishes } from './columnWishes.ts'
import type { LongColumn } from './longColumn.ts'
import { orderedBy } from './ordering.ts'
import { isOfRow, rowStep } from './rowSteps.ts'
import { useRowsInSight } from './sight.ts'

/**
 * A ledger of thousands of rows, of which only those in sight are made; otherwise it is as any other: its heads order it, its
 * columns are chosen and sized, arrows go from row to row.
 */
const { rows, columns, label, keyOf, nameOf, selected, mark } = defineProps<{
  rows: readonly Row[]
  columns: readonly LongColumn<Row>[]
  label: string
  keyOf: (row: Row) => string
  /** what a row is called where it is ticked */
  nameOf?: (row: Row) => string
  selected?: string
  /** more classes of a row */
  mark?: (row: Row) => unknown
}>()
const emit = defineEmits<{ select: [Row]; open: [Row] }>()
defineSlots<Record<string, (props: { readonly row: Row }) => unknown>>()
/** the keys of the rows that are ticked; without it nothing can be */
const ticked = defineModel<readonly string[]>('ticked')

const order = ref<{ readonly key: string; readonly direction: 1 | -1 }>()
const ordered = computed(() =>
  orderedBy(
    rows,
    columns.find((column) => column.key === order.value?.key)?.by,
    order.value?.direction ?? 1,
  ),
)
/** Up, down, then as they come. */
function turn({ key, by }: LongColumn<Row>): void {
  if (!by) return
  const isSame = order.value?.key === key
  if (isSame && order.value?.direction === -1) order.value = undefined
  else order.value = { key, direction: isSame ? -1 : 1 }
}
const sortOf = ({ key, by }: LongColumn<Row>) => {
  if (!by) return undefined
  if (order.value?.key !== key) return 'none'
  return order.value.direction === 1 ? 'ascending' : 'descending'
}
const arrows = { none: ArrowUpDown, ascending: ArrowUp, descending: ArrowDown }

const wishes = useColumnWishes(label)
const headers = computed(() => columns.flatMap((column) => (column.isAct ? [] : [column.header])))
const isChosen = computed(() => headers.value.length >= chosenFrom)
const seen = computed(() =>
  isChosen.value
    ? columns.filter((column) => !wishes.value.hidden.includes(column.header))
    : columns,
)
const wide = computed(() => seen.value.length + (ticked.value ? 1 : 0) + (isChosen.value ? 1 : 0))
const widthStyle = ({ header }: LongColumn<Row>) => {
  const width = wishes.value.widths[header]
  return width === undefined ? undefined : { width: `${width}px`, maxWidth: `${width}px` }
}
const box = ref<HTMLElement>()
const widthOf = (header: string): number =>
  [...(box.value?.querySelectorAll('th') ?? [])].find((entry) => entry.dataset['header'] === header)
    ?.offsetWidth ?? 0

const { rows: made, before, after, go } = useRowsInSight(() => ordered.value, box)
const focused = ref<string>()
/** The one row that Tab comes to: the one at hand where it is made, else the first that is. */
const stop = computed(() => {
  const wanted = selected ?? focused.value
  const keys = made.value.map(({ row }) => keyOf(row))
  return wanted !== undefined && keys.includes(wanted) ? wanted : keys[0]
})
function take(row: Row): void {
  focused.value = keyOf(row)
  emit('select', row)
}
function press(event: KeyboardEvent, row: Row, index: number): void {
  if (!isOfRow(event)) return
  const to = rowStep(event, index, ordered.value.length)
  if (to === undefined && event.key !== 'Enter') return
  event.preventDefault()
  if (to === undefined) emit('open', row)
  else void go(to)
}

/** Thousands may be ticked, and each row asks whether it is. */
const tickedKeys = computed(() => new Set(ticked.value))
const isAllTicked = computed(
  () => rows.length > 0 && rows.every((row) => tickedKeys.value.has(keyOf(row))),
)
/** Ticks every row that is listed, or none of them; what is ticked but narrowed out of the list stays so. */
const tickAll = (on: boolean): void => {
  const listed = new Set(rows.map(keyOf))
  const others = (ticked.value ?? []).filter((entry) => !listed.has(entry))
  ticked.value = on ? [...others, ...listed] : others
}
const tick = (row: Row, on: boolean): void => {
  const others = (ticked.value ?? []).filter((entry) => entry !== keyOf(row))
  ticked.value = on ? [...others, keyOf(row)] : others
}
</script>

<template>
  <div ref="box" class="scrolls">
    <table class="ledger" :aria-label="label" :aria-rowcount="rows.length + 1">
      <thead>
        <tr>
          <th v-if="ticked" scope="col" class="tick">
            <Checkbox
              :model-value="isAllTicked"
              binary
              aria-label="Tick all"
              @update:model-value="tickAll($event)"
            />
          </th>
          <th
            v-for="column in seen"
            :key="column.key"
            scope="col"
            :data-header="column.header"
            :class="{ num: column.isNumber, turns: column.by }"
            :style="widthStyle(column)"
            :aria-sort="sortOf(column)"
            :tabindex="column.by ? 0 : undefined"
            @click="turn(column)"
            @keydown.enter.self.prevent="turn(column)"
            @keydown.space.self.prevent="turn(column)"
          >
            <span :class="{ 'seen-not': column.isAct }">{{ column.header }}</span>{{ ' '
            }}<component
              :is="arrows[sortOf(column) ?? 'none']"
              v-if="column.by"
              class="order-mark"
            />
          </th>
          <th v-if="isChosen" scope="col" class="chooser">
            <ColumnWishes v-model="wishes" :headers="headers" :label="label" :width-of="widthOf" />
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="before" aria-hidden="true" class="filler">
          <td :colspan="wide" :style="{ height: `${before}px` }" />
        </tr>
        <tr
          v-for="{ index, row } in made"
          :key="keyOf(row)"
          :tabindex="keyOf(row) === stop ? 0 : -1"
          :aria-rowindex="index + 2"
          :class="[{ selected: keyOf(row) === selected }, mark?.(row)]"
          @click="take(row)"
          @focus="take(row)"
          @keydown="press($event, row, index)"
        >
          <td v-if="ticked" class="tick">
            <Checkbox
              :model-value="tickedKeys.has(keyOf(row))"
              binary
              :aria-label="`Tick ${nameOf?.(row)}`"
              @update:model-value="tick(row, $event)"
              @click.stop
            />
          </td>
          <td
            v-for="column in seen"
            :key="column.key"
            :class="[{ num: column.isNumber }, column.class]"
            :style="widthStyle(column)"
          >
            <slot :name="column.key" :row="row" />
          </td>
          <td v-if="isChosen" />
        </tr>
        <tr v-if="after" aria-hidden="true" class="filler">
          <td :colspan="wide" :style="{ height: `${after}px` }" />
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.tick {
  width: 26px;
}
.turns {
  cursor: pointer;
  white-space: nowrap;
}
.turns:focus-visible {
  outline-offset: -2px;
}
/* Its arrow reaches over the head beside it. */
.turns:hover,
.turns:focus-visible,
.turns[aria-sort$='ending'] {
  z-index: 2;
}
.chooser {
  width: 30px;
}
.ledger td,
.ledger th {
  padding: 0 6px;
}
.ledger th {
  padding: 5px 6px;
}
</style>
