<script setup lang="ts">
import type { ItemsAnswer, ItemAnswer } from '@bluestem/core/queries'
import Checkbox from 'primevue/checkbox'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { sortText } from '@bluestem/core/views'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { allChosen, type Chosen, choosing, isChosen, noneChosen } from './chosen.ts'
import { numberWords } from './words.ts'
import { isSettled } from './isSettled.ts'
import { valueOf } from './valueOf.ts'
import ValueText from './ValueText.vue'

/** One stretch of the list: all of it, or one group under a heading. */
export interface Segment {
  readonly key: string
  readonly title?: string
  /** how many items it has, where that is known; a refresh counts on it being told anew */
  readonly count?: number
  readonly filter: unknown
}
export interface SortBy {
  readonly by: string
  readonly direction: 'up' | 'down'
}

const {
  segments,
  columns,
  order,
  asOf = '',
} = defineProps<{
  segments: readonly Segment[]
  columns: readonly string[]
  order: readonly SortBy[]
  asOf?: string
  label: string
}>()
/** the rows that are chosen; undefined for a list of which none can be */
const chosen = defineModel<Chosen>('chosen')
const emit = defineEmits<{
  answered: [ItemsAnswer]
  sort: [SortBy[]]
  select: [ItemAnswer | undefined]
}>()

const vocabulary = useVocabulary()
const router = useRouter()
const box = ref<HTMLElement>()
const pageSize = 100
const pages = reactive(new Map<string, readonly ItemAnswer[]>())
const asked = new Set<string>()
const totals = reactive(new Map<string, number>())
const folded = reactive(new Set<string>())
const told = ref('')
const at = ref(0)
let round = 0

interface ItemPlace {
  readonly kind: 'item'
  readonly segment: Segment
  readonly offset: number
}
type Row = { readonly kind: 'heading'; readonly segment: Segment } | ItemPlace

/** Which rows there are: headings, and below each as many rows as it has items. Only the visible ones are made. */
const lengths = computed(() =>
  segments.map((segment) => ({
    segment,
    heading: segment.title === undefined ? 0 : 1,
    rows: folded.has(segment.key) ? 0 : (totals.get(segment.key) ?? segment.count ?? 0),
  })),
)
const length = computed(() => lengths.value.reduce((sum, one) => sum + one.heading + one.rows, 0))

/** Whether it is known how many rows there are: before that, nobody can say that nothing answers. */
const isCounted = computed(() =>
  segments.every(({ key, count }) => totals.has(key) || count !== undefined),
)

function rowAt(index: number): Row | undefined {
  let rest = index
  for (const { segment, heading, rows } of lengths.value) {
    if (heading && rest === 0) return { kind: 'heading', segment }
    rest -= heading
    if (rest < rows) return { kind: 'item', segment, offset: rest }
    rest -= rows
  }
  return undefined
}

const itemOf = (row: Row | undefined): ItemAnswer | undefined =>
  row?.kind === 'item'
    ? pages.get(`${row.segment.key}:${Math.floor(row.offset / pageSize)}`)?.[row.offset % pageSize]
    : undefined

const virtual = useVirtualizer(
  computed(() => ({
    count: length.value,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => 32,
    overscan: 12,
  })),
)
const visible = computed(() =>
  virtual.value.getVirtualItems().map((one) => ({ ...one, row: rowAt(one.index) })),
)

const fields = computed(() => [...new Set(['title', 'status', ...columns])].join(','))
const sort = computed(() => sortText(order))

/** Stretches of which nobody said how many rows they have: their first page tells it. */
const uncounted = computed(() => segments.filter(({ count }) => count === undefined))

async function load(segment: Segment, page: number): Promise<void> {
  const key = `${segment.key}:${page}`
  if (asked.has(key)) return
  asked.add(key)
  const mine = round
  try {
    const answers = await call('POST /items/search', {
      body: {
        filter: segment.filter,
        kept: true,
        sort: sort.value,
        fields: fields.value,
        limit: pageSize,
        offset: page * pageSize,
        ...(asOf ? { 'as-of': asOf } : {}),
      },
    })
    if (mine !== round) return
    pages.set(key, answers.items)
    totals.set(segment.key, answers.total)
    if (uncounted.value.length === segments.length) {
      const total = segments.reduce((sum, one) => sum + (totals.get(one.key) ?? 0), 0)
      emit('answered', { ...answers, total })
    }
  } catch (error) {
    if (mine === round) told.value = messageOf(error)
  }
}

/** Asks another question: nothing of before is its answer. */
function reload(): void {
  round += 1
  asked.clear()
  pages.clear()
  totals.clear()
  told.value = ''
  for (const segment of uncounted.value) void load(segment, 0)
}

/** Asks anew for what is in sight, in its place: what is shown stays until its answer is there. */
function refresh(): void {
  round += 1
  asked.clear()
  for (const { key, count } of segments) if (count !== undefined) totals.delete(key)
  loadVisible()
}

function loadVisible(): void {
  for (const { row } of visible.value)
    if (row?.kind === 'item') void load(row.segment, Math.floor(row.offset / pageSize))
  // A list that was empty may have its first answer now.
  for (const segment of uncounted.value) void load(segment, 0)
}
const question = computed(() => segments.map(({ key, filter }) => [key, filter]))
watch(() => JSON.stringify([question.value, sort.value, fields.value, asOf]), reload, {
  immediate: true,
})
watch(visible, loadVisible)

function move(to: number): void {
  at.value = Math.max(0, Math.min(length.value - 1, to))
  virtual.value.scrollToIndex(at.value)
  emit('select', itemOf(rowAt(at.value)))
}

/** the row from which a stretch is chosen */
let anchor = 0

/** Chooses the row, or leaves it out. */
function turnChoice(index: number): void {
  const item = itemOf(rowAt(index))
  if (!chosen.value || !item) return
  anchor = index
  chosen.value = choosing(chosen.value, [item.ref], !isChosen(chosen.value, item.ref))
}

/** Chooses every row from the anchor to another; those that were never in sight are asked for first. */
async function chooseTo(index: number): Promise<void> {
  const [first, last] = [Math.min(anchor, index), Math.max(anchor, index)]
  const rows = Array.from({ length: last - first + 1 }, (_, step) => rowAt(first + step))
  const items = rows.filter((row): row is ItemPlace => row?.kind === 'item')
  await Promise.all(
    items.map(async ({ segment, offset }) => await load(segment, Math.floor(offset / pageSize))),
  )
  const refs = items.flatMap((row) => itemOf(row)?.ref ?? [])
  if (chosen.value) chosen.value = choosing(chosen.value, refs, true)
}

/** A click chooses one row, with Shift all from the last one to it. */
function clickChoice(event: MouseEvent, index: number): void {
  if (event.shiftKey) void chooseTo(index)
  else turnChoice(index)
}

function chooseOnTheWay(by: 1 | -1): void {
  if (!chosen.value) return move(at.value + by)
  anchor = at.value
  move(at.value + by)
  void chooseTo(at.value)
}

function keys(event: KeyboardEvent): void {
  const row = rowAt(at.value)
  const choices: Record<string, () => void> = chosen.value
    ? {
        ' ': () => turnChoice(at.value),
        Escape: () => (chosen.value = noneChosen),
        ...(event.ctrlKey || event.metaKey ? { a: () => (chosen.value = allChosen) } : {}),
      }
    : {}
  const steps: Record<string, () => void> = {
    ...choices,
    ArrowDown: () => (event.shiftKey ? chooseOnTheWay(1) : move(at.value + 1)),
    ArrowUp: () => (event.shiftKey ? chooseOnTheWay(-1) : move(at.value - 1)),
    PageDown: () => move(at.value + 15),
    PageUp: () => move(at.value - 15),
    Home: () => move(0),
    End: () => move(length.value - 1),
    Enter: () => {
      const item = itemOf(row)
      if (item) void router.push(`/work/${item.ref}`)
      else if (row?.kind === 'heading') turn(row.segment)
    },
  }
  const step = steps[event.key]
  if (!step || event.target !== box.value) return
  event.preventDefault()
  step()
}

/** Whether the item of a row is chosen. */
function isTaken(row: Row): boolean {
  const item = itemOf(row)
  return chosen.value !== undefined && item !== undefined && isChosen(chosen.value, item.ref)
}

function turn(segment: Segment): void {
  if (!folded.delete(segment.key)) folded.add(segment.key)
}

function sortBy(handle: string): void {
  const [first] = order
  emit('sort', [
    { by: handle, direction: first?.by === handle && first.direction === 'up' ? 'down' : 'up' },
    ...order.filter((one) => one.by !== handle).slice(0, 2),
  ])
}

const widths: Record<string, string> = {
  ref: '86px',
  type: '44px',
  title: 'minmax(196px, 6fr)',
  status: 'minmax(142px, 1fr)',
  priority: 'minmax(148px, 1fr)',
  due: '92px',
  changed: '100px',
  created: '100px',
  done: '100px',
  assignee: 'minmax(106px, 1fr)',
  labels: 'minmax(130px, 1.2fr)',
  rung: '60px',
  estimate: '76px',
  on_hold: '70px',
}
const widthOf = (column: string): string =>
  widths[column] ??
  (vocabulary.property(column)?.leftOf === undefined ? 'minmax(90px, 1fr)' : '128px')
const template = computed(() =>
  [...(chosen.value ? ['34px'] : []), ...columns.map(widthOf)].join(' '),
)
const isNumber = (handle: string): boolean => vocabulary.property(handle)?.type.kind === 'number'
const sorted = (handle: string): 'ascending' | 'descending' | 'none' =>
  order[0]?.by === handle ? (order[0].direction === 'up' ? 'ascending' : 'descending') : 'none'

defineExpose({ refresh })

function selectRow(index: number, row: Row): void {
  at.value = index
  emit('select', itemOf(row))
}
</script>

<template>
  <p v-if="told" class="told" role="alert">
    {{ told }} <button class="plain" type="button" @click="reload">Try again</button>
  </p>
  <div
    ref="box"
    class="grid"
    role="grid"
    :aria-label="label"
    :aria-rowcount="length + 1"
    :aria-colcount="columns.length + (chosen ? 1 : 0)"
    :aria-multiselectable="chosen ? true : undefined"
    tabindex="0"
    :aria-activedescendant="length ? `row-${at}` : undefined"
    @keydown="keys"
  >
    <div class="head" role="row" :style="{ gridTemplateColumns: template }">
      <span v-if="chosen" role="columnheader" class="tick"
        ><Checkbox
          binary
          :model-value="chosen.all && chosen.refs.size === 0"
          :indeterminate="chosen.refs.size > 0"
          aria-label="Choose all answers"
          @update:model-value="chosen = $event ? allChosen : noneChosen"
      /></span>
      <span
        v-for="column in columns"
        :key="column"
        role="columnheader"
        :aria-sort="sorted(column)"
        :class="{ num: isNumber(column) }"
      >
        <button
          type="button"
          :aria-label="`Order by ${vocabulary.title(column)}`"
          @click="sortBy(column)"
        >
          {{ column === 'type' ? '' : vocabulary.title(column)
          }}<span v-if="column === 'type'" class="seen-not">Type</span
          ><i v-if="sorted(column) !== 'none'" aria-hidden="true">{{
            sorted(column) === 'ascending' ? ' ↑' : ' ↓'
          }}</i>
        </button>
      </span>
    </div>
    <div class="rows" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="{ index, start, row } in visible" :key="index">
        <div
          v-if="row?.kind === 'heading'"
          :id="`row-${index}`"
          class="line heading"
          role="row"
          :aria-rowindex="index + 2"
          :style="{ transform: `translateY(${start}px)` }"
          :class="{ selected: index === at }"
        >
          <span role="gridcell" :aria-colspan="columns.length + (chosen ? 1 : 0)"
            ><button
              class="turn"
              type="button"
              tabindex="-1"
              :aria-expanded="!folded.has(row.segment.key)"
              @click="turn(row.segment)"
            >
              <i aria-hidden="true">{{ folded.has(row.segment.key) ? '+' : '–' }}</i>{{
                row.segment.title
              }}
              <span class="quiet">{{
                numberWords(totals.get(row.segment.key) ?? row.segment.count ?? 0)
              }}</span>
            </button></span
          >
        </div>
        <div
          v-else-if="row"
          :id="`row-${index}`"
          class="line"
          role="row"
          :aria-rowindex="index + 2"
          :aria-selected="chosen ? isTaken(row) : index === at"
          :class="{ selected: index === at, chosen: isTaken(row) }"
          :style="{ transform: `translateY(${start}px)`, gridTemplateColumns: template }"
          :data-ref="itemOf(row)?.ref"
          @click="selectRow(index, row)"
        >
          <template v-if="itemOf(row)">
            <span
              v-if="chosen"
              role="gridcell"
              class="tick"
              @click.stop.prevent="clickChoice($event, index)"
              ><Checkbox
                binary
                :model-value="isTaken(row)"
                :tabindex="-1"
                :aria-label="`Choose ${itemOf(row)!.ref}`"
            /></span>
            <span
              v-for="column in columns"
              :key="column"
              role="gridcell"
              :class="['cut', { num: isNumber(column) }]"
            >
              <RouterLink
                v-if="column === 'ref' || column === 'title'"
                :to="`/work/${itemOf(row)!.ref}`"
                :class="column"
                tabindex="-1"
                >{{ column === 'ref' ? itemOf(row)!.ref : itemOf(row)!.title }}</RouterLink
              >
              <ValueText
                v-else
                :handle="column"
                :value="valueOf(itemOf(row)!, column)"
                :settled="isSettled(itemOf(row)!)"
              />
            </span>
          </template>
          <span v-else role="gridcell" class="quiet">…</span>
        </div>
      </template>
    </div>
    <p v-if="!isCounted && !told" class="blank quiet waiting">Looking for items …</p>
    <slot v-else-if="length === 0 && !told" name="empty"
      ><p class="blank">Nothing answers.</p></slot
    >
  </div>
</template>

<style scoped>
.grid {
  flex: 1;
  min-height: 120px;
  overflow: auto;
  position: relative;
  outline-offset: -2px;
}
.head {
  display: grid;
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 2;
  border-bottom: 1px solid var(--rule);
}
.head span {
  padding: 5px 8px;
  font-size: 12px;
  font-weight: 600;
  color: var(--quiet);
  white-space: nowrap;
  overflow: hidden;
}
.head button {
  border: 0;
  background: none;
  padding: 0;
  font-weight: 600;
  color: inherit;
  cursor: pointer;
}
.head i {
  font-style: normal;
}
.rows {
  position: relative;
  min-width: 640px;
}
.line {
  position: absolute;
  top: 0;
  left: 0;
  right: 0;
  height: 32px;
  display: grid;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  font-size: 13.5px;
}
.line > span {
  padding: 0 8px;
}
.line:hover {
  background: var(--wash);
}
.line.selected {
  background: var(--stem-wash);
}
.tick {
  display: flex;
  align-items: center;
}
.line.chosen {
  background: var(--wash);
}
.line.chosen.selected {
  background: var(--stem-wash);
}
.line .title {
  color: var(--ink);
}
.line .ref {
  color: var(--quiet);
}
.heading {
  display: flex;
  font-weight: 600;
  border-bottom-color: var(--rule);
}
.heading .quiet {
  font-weight: 400;
}
.turn {
  border: 0;
  background: none;
  padding: 0;
  font-weight: 600;
  cursor: pointer;
}
.turn i {
  display: inline-block;
  width: 16px;
  font-style: normal;
  color: var(--quiet);
}
/* What is there at once needs no word that it is looked for. */
.waiting {
  animation: appear 0.2s 0.4s both;
}
@keyframes appear {
  from {
    opacity: 0;
  }
}
</style>
