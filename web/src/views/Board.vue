<script setup lang="ts">
import { asChoice } from '@bluestem/core/schema'
import { asRecord, certain, elementAt, firstIn } from '@bluestem/core/known'
import { computed, nextTick, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import type { ItemAnswer } from '@bluestem/core/queries'
import type { ArrangedBoard, StandingAnswer, ViewContent } from '@bluestem/core/views'
import { messageOf } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import Meaning from '../parts/Meaning.vue'
import StatusMark from '../parts/StatusMark.vue'
import { valueOf } from '../parts/valueOf.ts'
import { numberWords } from '../parts/words.ts'
import { changeItem, type ItemGiven } from '../work/changing.ts'
import BoardColumn from './BoardColumn.vue'
import { columnKey, useBoardCards } from './boardCards.ts'
import { useVerdicts } from './verdicts.ts'

const { content, arranged, mayEdit } = defineProps<{
  content: ViewContent
  arranged: ArrangedBoard
  mayEdit: boolean
}>()
const emit = defineEmits<{ moved: [] }>()
const vocabulary = useVocabulary()
const notes = useNotes()
const board = computed(() => certain(content.board, 'board'))
const property = computed(() => vocabulary.property(board.value.by))
const { cards, take, more, put: putCard } = useBoardCards(() => ({ content, arranged }))
const { verdicts, judge } = useVerdicts(() => ({
  by: board.value.by,
  values: [...arranged.columns, ...arranged.elsewhere].map((place) => place.value),
}))
const dragged = ref<ItemAnswer>()
const announced = ref('')

/** whether the board changed while a card was in hand */
let missed = false
// What others change waits until a card in hand is put down.
watch(
  () => arranged,
  () => {
    if (dragged.value) missed = true
    else void take()
  },
  { immediate: true },
)
async function takeMissed(): Promise<void> {
  if (missed) await take()
  missed = false
}

async function begin(column: StandingAnswer, event: { oldIndex?: number }): Promise<void> {
  dragged.value = cards[columnKey(column.value)]?.[event.oldIndex ?? -1]
  if (dragged.value) await judge(dragged.value)
}

/** Ends a drag: a drop on another column is a change of the item, told in words when it is refused. */
async function end(event: { from?: HTMLElement; to?: HTMLElement }): Promise<void> {
  const item = dragged.value
  dragged.value = undefined
  const target = event.to?.dataset['value']
  const source = event.from?.dataset['value']
  if (!item || target === undefined) return await takeMissed()
  const neighbours = cards[target] ?? []
  const place = neighbours.findIndex((card) => card.ref === item.ref)
  const isOrdered = content.order[0]?.by === 'position' && place >= 0
  const position = isOrdered ? neighboursOf(neighbours, place) : undefined
  if (target !== source) return await drop(item, target, position)
  if (position) await put(item, { position })
  await takeMissed()
}

const neighboursOf = (
  list: readonly ItemAnswer[],
  place: number,
): { before?: string; after?: string } => ({
  ...(list[place - 1] ? { after: elementAt(list, place - 1).ref } : {}),
  ...(list[place + 1] ? { before: elementAt(list, place + 1).ref } : {}),
})

async function drop(
  item: ItemAnswer,
  value: string,
  position?: { before?: string; after?: string },
): Promise<void> {
  const refusal = verdicts[value]
  if (refusal) {
    announced.value = `${item.ref} stays where it is. ${refusal}`
    notes.show('warn', announced.value)
    return await take()
  }
  await put(item, { ...columnGiven(value || null), ...(position ? { position } : {}) })
}

/** Changes a card's item, whatever others changed beside its column; who moved it elsewhere meanwhile is told. */
async function put(item: ItemAnswer, change: ItemGiven): Promise<void> {
  const { by } = board.value
  const seen = columnGiven(asChoice(valueOf(item, by))?.id ?? null)
  try {
    const outcome = await changeItem(item, change, seen)
    if (outcome.ok) told(item, { ...item, ...outcome.item }, change, seen)
    else await stay(`${item.ref} stays where it is: ${outcome.words}.`)
  } catch (error) {
    await stay(messageOf(error))
  }
  emit('moved')
}

/** Shows a card that was moved in its new column, with the way back. */
function told(item: ItemAnswer, now: ItemAnswer, change: ItemGiven, seen: ItemGiven): void {
  const { by } = board.value
  announced.value = `${item.ref} moved.`
  const value = asRecord(change)[by] ?? change.fields?.[by]
  const goesElsewhere = by in change || change.fields !== undefined
  if (!goesElsewhere) return
  putCard(now, String(value ?? ''))
  if (by in change)
    notes.show('well', announced.value, { title: 'Undo', run: async () => await put(now, seen) })
}

/** Tells why a card was not moved, and shows the board as it is. */
async function stay(words: string): Promise<void> {
  announced.value = words
  notes.show('warn', words)
  await take()
}

/** A change that gives an item the value of a column. */
const columnGiven = (value: string | null): ItemGiven =>
  property.value?.builtIn ? { [board.value.by]: value } : { fields: { [board.value.by]: value } }

/** A card moves by keyboard: Alt with an arrow takes it to the next column that allows it. */
async function keys(event: KeyboardEvent, item: ItemAnswer, column: StandingAnswer): Promise<void> {
  if (!event.altKey || !['ArrowLeft', 'ArrowRight'].includes(event.key) || !mayEdit) return
  event.preventDefault()
  await judge(item)
  const columns = arranged.columns
  const from = columns.findIndex((entry) => entry.value === column.value)
  const further =
    event.key === 'ArrowRight' ? columns.slice(from + 1) : columns.slice(0, from).toReversed()
  const to = further.find((entry) => !verdicts[columnKey(entry.value)])
  if (!to) {
    announced.value = further.length
      ? `${item.ref} stays where it is. ${verdicts[columnKey(firstIn(further).value)]}`
      : 'There is no column further on.'
    notes.show('warn', announced.value)
    return
  }
  await drop(item, columnKey(to.value))
  await nextTick()
  document.querySelector<HTMLElement>(`[data-card="${item.ref}"]`)?.focus()
}

/** Why the card in hand may not be dropped at a place; empty where it may, and while none is in hand. */
const refusalAt = (value: string | null): string =>
  dragged.value ? (verdicts[columnKey(value)] ?? '') : ''
const isWelcome = (value: string | null): boolean =>
  dragged.value !== undefined && !verdicts[columnKey(value)]
</script>

<template>
  <div
    class="board"
    :style="{
      gridTemplateColumns: `repeat(${arranged.columns.length}, minmax(190px, 1fr)) 128px`,
    }"
  >
    <BoardColumn
      v-for="column in arranged.columns"
      :key="columnKey(column.value)"
      :column="column"
      :content="content"
      :filter="arranged.filter"
      :refusal="refusalAt(column.value)"
      :may-edit="mayEdit"
      :cards="cards[columnKey(column.value)] ?? []"
      @update:cards="cards[columnKey(column.value)] = $event"
      @begin="begin(column, $event)"
      @end="end"
      @made="emit('moved')"
      @more="more(column)"
      @keys="(event, item) => keys(event, item, column)"
    />
    <section class="column else" aria-label="elsewhere">
      <header class="quiet"><Meaning word="elsewhere" /></header>
      <div
        v-for="place in arranged.elsewhere"
        :key="columnKey(place.value)"
        :class="[
          'stand',
          { refuse: refusalAt(place.value) !== '', welcome: isWelcome(place.value) },
        ]"
        :data-elsewhere="columnKey(place.value)"
      >
        <VueDraggable
          :model-value="[]"
          class="catch"
          :data-value="columnKey(place.value)"
          group="cards"
          :animation="0"
          :force-fallback="true"
        />
        <StatusMark v-if="board.by === 'status' && place.shown" :status="place.shown" /><span
          v-else
          >{{ place.shown?.title ?? `no ${property?.title.toLowerCase()}` }}</span
        >{{ ' ' }}<b>{{ numberWords(place.count) }}</b>
      </div>
      <p v-if="arranged.elsewhere.length === 0" class="quiet">nobody</p>
    </section>
    <p class="seen-not" aria-live="assertive">{{ announced }}</p>
  </div>
</template>

<style scoped>
.board {
  flex: 1;
  min-height: 0;
  display: grid;
  overflow: auto;
  margin: 0 calc(-1 * var(--edge));
  padding: 0 var(--edge);
}
.else {
  border-left: 1px solid var(--hair);
  padding: 0 8px 20px;
  min-height: 100%;
  background: var(--wash);
  font-size: 12.5px;
}
.else header {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
  margin: 0 -8px 8px;
  padding: 8px 10px;
}
.stand :deep(.status) {
  white-space: normal;
}
.stand {
  position: relative;
  border: 1px solid var(--rule);
  padding: 5px 7px;
  background: var(--sheet);
  margin-bottom: 8px;
  overflow: hidden;
}
.stand.welcome {
  outline: 2px solid var(--leaf);
}
.stand.refuse {
  text-decoration: line-through;
  color: var(--quiet);
}
.catch {
  position: absolute;
  inset: 0;
  overflow: hidden;
  opacity: 0;
}
</style>
