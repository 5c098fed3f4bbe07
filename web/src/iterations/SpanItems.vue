<script setup lang="ts">
import type { OutcomeAnswer, SpanAnswer } from '@bluestem/core/iterations'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useSession } from '../session/session.store.ts'
import { type Chosen, countChosen, noneChosen } from '../parts/chosen.ts'
import ItemTable from '../parts/ItemTable.vue'
import type { Segment, SortBy } from '../parts/segments.ts'
import { useNotes } from '../parts/notes.store.ts'
import { counted } from '../parts/words.ts'
import { carryOut, itemsOf, outcomeWords, undo } from '../work/many.ts'
import ManyBar from '../work/ManyBar.vue'
import { sumWords } from './words.ts'

/** What is in an iteration or a release, how that compares with what was meant, and the backlog it is filled from. */
const { span, outcome, handle, backlog } = defineProps<{
  span: SpanAnswer
  outcome: OutcomeAnswer
  /** the property of an item that names the span */
  handle: 'iteration' | 'release'
  /** what could be taken in: open work that is in none */
  backlog?: { readonly title: string; readonly filter: unknown } | undefined
}>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const notes = useNotes()
const chosen = ref<Chosen>(noneChosen)
const total = ref(0)
const order = ref<SortBy[]>([{ by: 'priority', direction: 'up' }])
const table = ref<InstanceType<typeof ItemTable>>()

type Part = keyof OutcomeAnswer
/** which part of it is listed; the whole with its backlog where none is */
const part = ref<Part>()
const isOver = computed(() => span.state === 'finished')

function refresh(): void {
  table.value?.refresh()
}
defineExpose({ refresh })

const parts = computed((): { readonly part: Part; readonly title: string }[] => [
  { part: 'inside', title: isOver.value ? 'were in it' : 'in it' },
  { part: 'done', title: 'done' },
  { part: 'open', title: isOver.value ? 'were open' : 'open' },
  ...(span.state === 'planned'
    ? []
    : ([
        { part: 'committed', title: 'committed' },
        { part: 'later', title: 'came in later' },
        { part: 'left', title: 'taken out' },
      ] as const)),
])

const inIt = computed(() => ({ op: '=', args: [{ property: handle }, span.id] }))
/** Open items that one filter finds and that are in none. */
const waiting = computed((): Segment[] => {
  if (!backlog || isOver.value) return []
  const filter = {
    op: 'and',
    args: [
      backlog.filter,
      { op: 'in', args: [{ property: 'phase' }, ['idle', 'active']] },
      { op: 'isNull', args: [{ property: handle }] },
    ],
  }
  return [{ key: 'backlog', title: backlog.title, filter }]
})
const listed = (refs: readonly string[]): unknown => ({
  op: 'in',
  args: [{ property: 'ref' }, [...refs]],
})
const segments = computed((): Segment[] => {
  const shown = isOver.value ? (part.value ?? 'inside') : part.value
  if (shown) {
    const { refs } = outcome[shown]
    return refs.length > 0 ? [{ key: shown, filter: listed(refs) }] : []
  }
  return [{ key: 'inside', title: 'In it', filter: inIt.value }, ...waiting.value]
})
const filter = computed(() =>
  segments.value.length > 1
    ? { op: 'or', args: segments.value.map((segment) => segment.filter) }
    : segments.value[0]?.filter,
)

function changed(): void {
  refresh()
  emit('changed')
}

/** Puts what is chosen into it, or takes it out again, as one change that can be undone. */
async function put(place: string | null): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    const over = await carryOut(
      itemsOf(chosen.value, filter.value),
      { set: { [handle]: place } },
      countChosen(chosen.value, total.value),
      () => undefined,
    )
    notes.show('well', outcomeWords(over), {
      title: 'Undo',
      run: () =>
        void notes.attempt(async () => {
          await undo(over.id, () => undefined)
          changed()
        }),
    })
  })
  if (!wentWell) return
  chosen.value = noneChosen
  changed()
}
const columns = ['ref', 'type', 'title', 'status', 'priority', 'estimate', 'assignee']
</script>

<template>
  <p v-if="span.goal" class="goal">{{ span.goal }}</p>
  <div class="figures" role="group" aria-label="What became of it">
    <Button
      v-for="entry in parts"
      :key="entry.part"
      variant="text"
      severity="secondary"
      class="figure"
      :aria-pressed="part === entry.part"
      @click="part = part === entry.part ? undefined : entry.part"
    >
      <b>{{ outcome[entry.part].refs.length }}</b>
      <span>{{ entry.title }}</span>
      <span class="quiet">{{ sumWords(outcome[entry.part]) }}</span>
    </Button>
    <span v-if="outcome.inside.unestimated" class="quiet rest"
      >{{ counted(outcome.inside.unestimated, 'item') }} without an estimate</span
    >
  </div>
  <ItemTable
    v-if="segments.length"
    ref="table"
    v-bind="session.mayEdit ? { chosen } : {}"
    :label="`Items of ${span.title}`"
    :segments="segments"
    :columns="columns"
    :order="order"
    @answered="total = $event.total"
    @sort="order = $event"
    @update:chosen="chosen = $event ?? noneChosen"
  >
    <template #empty><p class="blank">Nothing is in it, and nothing waits for it.</p></template>
  </ItemTable>
  <p v-else class="blank">There is nothing of this kind.</p>
  <ManyBar
    v-if="session.mayEdit"
    v-model:chosen="chosen"
    :filter="filter"
    :total="total"
    @done="changed"
  >
    <Button severity="secondary" label="Take out" @click="put(null)" />
    <Button v-if="!isOver" severity="secondary" label="Put in" @click="put(span.id)" />
  </ManyBar>
</template>

<style scoped>
.goal {
  margin: 0 0 6px;
  font: 400 16px var(--serif);
}
.figures {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 4px 18px;
  margin: 4px 0 10px;
}
.figure {
  display: grid;
  justify-items: start;
  gap: 0;
  padding: 4px 8px;
}
.rest {
  align-self: end;
  padding: 4px 8px;
}
.figure b {
  color: var(--ink);
  font: 500 22px var(--serif);
}
.figure[aria-pressed='true'] {
  background: var(--stem-wash);
}
</style>
