<script setup lang="ts">
import type { ItemAnswer, ItemsAnswer } from '@bluestem/core/queries'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { sortText } from '@bluestem/core/views'
import { useVocabulary } from '../api/vocabulary.store.ts'
import type { Chosen } from './chosen.ts'
import { widthOf } from './columnWidths.ts'
import ItemLine from './ItemLine.vue'
import ItemTableHead from './ItemTableHead.vue'
import { useRowChoices } from './rowChoices.ts'
import { fieldsOf, isItem, type Row, type Segment, type SortBy, useSegments } from './segments.ts'
import { numberWords } from './words.ts'

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
/** the place of the current row */
const at = ref(0)

const rows = useSegments(
  () => ({ segments, columns, order, asOf }),
  (answers) => emit('answered', answers),
)
const { length, isCounted, told, countOf, rowAt, itemOf, turn, isFolded, reload } = rows
const { clickChoice, chooseBetween, isTaken, keysAt } = useRowChoices(chosen, rows)

const virtual = useVirtualizer(
  computed(() => ({
    count: length.value,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => 32,
    overscan: 12,
  })),
)
const visible = computed(() =>
  virtual.value.getVirtualItems().map((item) => ({ ...item, row: rowAt(item.index) })),
)

function loadVisible(): void {
  for (const { row } of visible.value) if (isItem(row)) void rows.load(row)
  // A list that was empty may have its first answer now.
  rows.loadUncounted()
}

/** Asks anew for what is in sight, in its place: what is shown stays until its answer is there. */
function refresh(): void {
  rows.forget()
  loadVisible()
}
const question = computed(() =>
  JSON.stringify([
    segments.map(({ key, filter }) => [key, filter]),
    sortText(order),
    fieldsOf(columns),
    asOf,
  ]),
)
watch(question, reload, { immediate: true })
watch(visible, loadVisible)

function move(to: number): void {
  at.value = Math.max(0, Math.min(length.value - 1, to))
  virtual.value.scrollToIndex(at.value)
  emit('select', itemOf(rowAt(at.value)))
}

function chooseOnTheWay(by: 1 | -1): void {
  const from = at.value
  move(from + by)
  if (chosen.value) chooseBetween(from, at.value)
}

function enter(row: Row | undefined): void {
  const item = itemOf(row)
  if (item) void router.push(`/work/${item.ref}`)
  else if (row?.kind === 'heading') turn(row.segment)
}

function keys(event: KeyboardEvent): void {
  const steps: Record<string, () => void> = {
    ...keysAt(at.value, event),
    ArrowDown: () => (event.shiftKey ? chooseOnTheWay(1) : move(at.value + 1)),
    ArrowUp: () => (event.shiftKey ? chooseOnTheWay(-1) : move(at.value - 1)),
    PageDown: () => move(at.value + 15),
    PageUp: () => move(at.value - 15),
    Home: () => move(0),
    End: () => move(length.value - 1),
    Enter: () => enter(rowAt(at.value)),
  }
  const step = steps[event.key]
  if (!step || event.target !== box.value) return
  event.preventDefault()
  step()
}

const template = computed(() =>
  [
    ...(chosen.value ? ['34px'] : []),
    ...columns.map((column) => widthOf(column, vocabulary.property(column)?.leftOf !== undefined)),
  ].join(' '),
)
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
    <ItemTableHead
      v-model:chosen="chosen"
      :style="{ gridTemplateColumns: template }"
      :columns="columns"
      :order="order"
      @sort="emit('sort', $event)"
    />
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
              :aria-expanded="!isFolded(row.segment)"
              @click="turn(row.segment)"
            >
              <i aria-hidden="true">{{ isFolded(row.segment) ? '+' : '–' }}</i>{{
                row.segment.title
              }}
              <span class="quiet">{{ numberWords(countOf(row.segment)) }}</span>
            </button></span
          >
        </div>
        <ItemLine
          v-else-if="row"
          :id="`row-${index}`"
          :aria-rowindex="index + 2"
          :aria-selected="chosen ? isTaken(row) : index === at"
          :class="{ selected: index === at, chosen: isTaken(row) }"
          :style="{ transform: `translateY(${start}px)`, gridTemplateColumns: template }"
          :item="itemOf(row)"
          :columns="columns"
          :choosable="chosen !== undefined"
          :taken="isTaken(row)"
          @click="selectRow(index, row)"
          @choose="clickChoice($event, index)"
        />
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
.heading > span {
  padding: 0 8px;
}
.line:hover {
  background: var(--wash);
}
.line.selected {
  background: var(--stem-wash);
}
.line.chosen {
  background: var(--wash);
}
.line.chosen.selected {
  background: var(--stem-wash);
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
