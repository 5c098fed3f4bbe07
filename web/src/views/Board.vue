<script setup lang="ts">
import { asChoice } from '@bluestem/core/schema'
import { asRecord, certain, elementAt, firstIn, valueFor } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import Button from 'primevue/button'
import { computed, nextTick, reactive, ref, watch } from 'vue'
import { Plus } from '@lucide/vue'
import { cellFilter } from '@bluestem/core/dashboards'
import { VueDraggable } from 'vue-draggable-plus'
import type { ItemAnswer } from '@bluestem/core/queries'
import {
  cardFields,
  columnFilter,
  sortText,
  type ViewContent,
  type ArrangedBoard,
  type StandingAnswer,
} from '@bluestem/core/views'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import Meaning from '../parts/Meaning.vue'
import StatusMark from '../parts/StatusMark.vue'
import { valueOf } from '../parts/valueOf.ts'
import { numberWords } from '../parts/words.ts'
import { changeItem, type ItemGiven } from '../work/changing.ts'
import MakeLine from '../work/MakeLine.vue'
import BoardCard from './BoardCard.vue'

const { content, arranged, mayEdit } = defineProps<{
  content: ViewContent
  arranged: ArrangedBoard
  mayEdit: boolean
}>()
const emit = defineEmits<{ moved: [] }>()
const vocabulary = useVocabulary()
const notes = useNotes()
const board = computed(() => certain(content.board, 'board'))
const key = (value: string | null): string => value ?? ''
const cards = reactive<Record<string, ItemAnswer[]>>({})
const places = computed(() => [...arranged.columns, ...arranged.elsewhere])
const offers = new Map<string, Promise<OffersAnswer>>()
const dragged = ref<ItemAnswer>()
/** while dragging: for each place, why a drop there is refused; '' where it is allowed */
const verdicts = reactive<Record<string, string>>({})
const announced = ref('')
const step = 60
const limits = reactive<Record<string, number>>({})

/** the column in which items are being made */
const makingIn = ref<string>()
const property = computed(() => vocabulary.property(board.value.by))

/** Asks for more cards of a column than came with the board. */
async function load(column: StandingAnswer): Promise<void> {
  const filter = columnFilter(
    arranged.filter,
    property.value,
    column.value,
    arranged.finishedBefore,
  )
  const answers = await call('POST /items/search', {
    body: {
      filter,
      kept: true,
      sort: sortText(content.order),
      fields: cardFields(board.value).join(','),
      limit: limits[key(column.value)],
    },
  })
  cards[key(column.value)] = [...answers.items]
}

/** Takes the cards that came with the board; of columns that were opened further, the rest is asked for. */
async function take(): Promise<void> {
  const further: StandingAnswer[] = []
  for (const column of arranged.columns) {
    const name = key(column.value)
    if ((limits[name] ?? 0) > column.cards.length && column.count > column.cards.length)
      further.push(column)
    else cards[name] = [...column.cards]
  }
  await notes.attempt(async () => void (await Promise.all(further.map(load))))
}
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

async function more(column: StandingAnswer): Promise<void> {
  const name = key(column.value)
  limits[name] = (cards[name]?.length ?? 0) + step
  await load(column)
}

/** Where a card may go: by its type's flow for statuses, anywhere for other fields. */
async function judge(item: ItemAnswer): Promise<void> {
  for (const name of Object.keys(verdicts)) delete verdicts[name]
  if (board.value.by !== 'status') return
  const code = firstIn(item.ref.split('/'))
  if (!offers.has(code)) offers.set(code, call('GET /projects/{code}/offers', { params: { code } }))
  const type = (await valueFor(offers, code)).types.find((one) => one.id === item.type.id)
  const from = certain(item.status, 'status of a card')
  for (const place of places.value) {
    const to = place.value
    if (to === from.id || !type) continue
    const allowed = type.moves
      .filter((move) => move.startsWith(`${from.id}:`))
      .map((move) => move.slice(from.id.length + 1))
    const names = type.statuses
      .filter((status) => allowed.includes(status.id))
      .map((status) => status.title)
    if (!to || !allowed.includes(to))
      verdicts[key(to)] =
        `Not from ${from.title}. It may go to ${names.length ? names.join(', ') : 'nowhere'}.`
  }
}

async function begin(column: StandingAnswer, event: { oldIndex?: number }): Promise<void> {
  dragged.value = cards[key(column.value)]?.[event.oldIndex ?? -1]
  if (dragged.value) await judge(dragged.value)
}

/** Ends a drag: a drop on another column is a change of the item, told in words when it is refused. */
async function end(event: {
  from?: HTMLElement
  to?: HTMLElement
  newIndex?: number
  originalEvent?: Event
}): Promise<void> {
  const item = dragged.value
  dragged.value = undefined
  const target = event.to?.dataset['value']
  const source = event.from?.dataset['value']
  if (!item || target === undefined) return await takeMissed()
  const neighbours = cards[target] ?? []
  const place = neighbours.findIndex((card) => card.ref === item.ref)
  if (target === source) {
    if (content.order[0]?.by === 'position' && place >= 0)
      await put(item, { position: neighboursOf(neighbours, place) })
    return await takeMissed()
  }
  await drop(
    item,
    target,
    content.order[0]?.by === 'position' && place >= 0 ? neighboursOf(neighbours, place) : undefined,
  )
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
  moveTo(now, String(value ?? ''))
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

/** Puts a card into a column at once; what else the board shows of it comes with the next arrangement. */
function moveTo(item: ItemAnswer, value: string): void {
  for (const [name, list] of Object.entries(cards)) {
    const place = list.findIndex((card) => card.ref === item.ref)
    if (name === value && place >= 0) list.splice(place, 1, item)
    else if (place >= 0) list.splice(place, 1)
    else if (name === value) list.unshift(item)
  }
}

/** A card moves by keyboard: Alt with an arrow takes it to the next column that allows it. */
async function keys(event: KeyboardEvent, item: ItemAnswer, column: StandingAnswer): Promise<void> {
  if (!event.altKey || !['ArrowLeft', 'ArrowRight'].includes(event.key) || !mayEdit) return
  event.preventDefault()
  await judge(item)
  const columns = arranged.columns
  const from = columns.findIndex((one) => one.value === column.value)
  const further =
    event.key === 'ArrowRight' ? columns.slice(from + 1) : columns.slice(0, from).toReversed()
  const to = further.find((one) => !verdicts[key(one.value)])
  if (!to) {
    announced.value = further.length
      ? `${item.ref} stays where it is. ${verdicts[key(firstIn(further).value)]}`
      : 'There is no column further on.'
    notes.show('warn', announced.value)
    return
  }
  await drop(item, key(to.value))
  await nextTick()
  document.querySelector<HTMLElement>(`[data-card="${item.ref}"]`)?.focus()
}

const refused = (value: string | null): boolean =>
  dragged.value !== undefined && Boolean(verdicts[key(value)])
const welcome = (value: string | null): boolean =>
  dragged.value !== undefined && !verdicts[key(value)]
</script>

<template>
  <div
    class="board"
    :style="{
      gridTemplateColumns: `repeat(${arranged.columns.length}, minmax(190px, 1fr)) 128px`,
    }"
  >
    <section
      v-for="column in arranged.columns"
      :key="key(column.value)"
      :class="['column', { refuse: refused(column.value) }]"
      :aria-label="column.shown?.title ?? 'none'"
    >
      <header>
        <StatusMark v-if="board.by === 'status' && column.shown" :status="column.shown" /><span
          v-else
          class="cut"
          >{{ column.shown?.title ?? `no ${property?.title.toLowerCase()}` }}</span
        ><span class="grow" /><b class="quiet">{{ numberWords(column.count) }}</b
        ><Button
          v-if="mayEdit"
          variant="text"
          size="small"
          :aria-label="`New items in ${column.shown?.title ?? 'none'}`"
          @click="makingIn = key(column.value)"
          ><template #icon><Plus :size="16" :stroke-width="1.5" class="plus" /></template
        ></Button>
      </header>
      <MakeLine
        v-if="makingIn === key(column.value)"
        class="make"
        stacked
        :filter="cellFilter(arranged.filter, property, column.value)"
        :place="column.shown?.title ?? 'this column'"
        @made="emit('moved')"
        @close="makingIn = undefined"
      />
      <p v-if="refused(column.value)" class="why">{{ verdicts[key(column.value)] }}</p>
      <VueDraggable
        v-model="cards[key(column.value)]!"
        v-if="cards[key(column.value)]"
        class="cards"
        :data-value="key(column.value)"
        group="cards"
        :disabled="!mayEdit"
        :animation="0"
        :force-fallback="true"
        :fallback-on-body="true"
        :fallback-tolerance="3"
        :sort="content.order[0]?.by === 'position'"
        ghost-class="ghost"
        drag-class="dragging"
        @start="begin(column, $event)"
        @end="end"
      >
        <BoardCard
          v-for="item in cards[key(column.value)]"
          :key="item.ref"
          :item="item"
          :fields="board.cards"
          :by="board.by"
          :data-card="item.ref"
          tabindex="0"
          @keydown="keys($event, item, column)"
        />
      </VueDraggable>
      <Button
        variant="link"
        class="more"
        v-if="(cards[key(column.value)]?.length ?? 0) < column.count"
        @click="more(column)"
        :label="`${numberWords(column.count - (cards[key(column.value)]?.length ?? 0))} more`"
      />
    </section>
    <section class="column else" aria-label="elsewhere">
      <header class="quiet"><Meaning word="elsewhere" /></header>
      <div
        v-for="place in arranged.elsewhere"
        :key="key(place.value)"
        :class="['stand', { refuse: refused(place.value), welcome: welcome(place.value) }]"
        :data-elsewhere="key(place.value)"
      >
        <VueDraggable
          :model-value="[]"
          class="catch"
          :data-value="key(place.value)"
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
.column {
  border-left: 1px solid var(--hair);
  padding: 0 8px 20px;
  min-height: 100%;
  display: flex;
  flex-direction: column;
}
.column:first-child {
  border-left: 0;
  padding-left: 0;
}
.column header {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 2;
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 8px 2px;
  border-bottom: 1px solid var(--rule);
  font-weight: 600;
  margin: 0 -8px 8px;
  padding: 8px 10px;
}
.column:first-child header {
  margin-left: 0;
  padding-left: 0;
}
.cards {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 90px;
}
.refuse {
  background: var(--russet-wash);
}
.refuse header {
  background: var(--russet-wash);
}
.why {
  color: var(--russet);
  font-size: 12.5px;
  margin: 0 0 6px;
}
.else {
  background: var(--wash);
  font-size: 12.5px;
}
.else header {
  background: var(--wash);
  font-weight: 400;
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
.plus {
  color: var(--ink);
}
.make {
  padding: 0 0 8px;
  margin-bottom: 8px;
}
.more {
  margin-top: 8px;
  text-align: left;
}
:deep(.ghost) {
  opacity: 1;
  border-style: dashed;
  background: none;
}
:deep(.ghost) > * {
  visibility: hidden;
}
:deep(.dragging) {
  border-color: var(--stem);
  box-shadow: none;
  opacity: 1;
}
</style>
