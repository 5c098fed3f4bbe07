<script setup lang="ts">
import type { PlanAnswer } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../app/session.store.ts'
import { type Chosen, countChosen, noneChosen } from '../parts/chosen.ts'
import ItemTable, { type Segment, type SortBy } from '../parts/ItemTable.vue'
import { useNotes } from '../parts/notes.store.ts'
import { counted } from '../parts/words.ts'
import { carryOut, itemsOf, outcomeWords, undo } from '../work/many.ts'
import ManyBar from '../work/ManyBar.vue'
import Capacity from './Capacity.vue'
import ChangeIteration from './ChangeIteration.vue'
import FinishSheet from './FinishSheet.vue'
import { daysWords, sumWords } from './words.ts'

/** One iteration: what is in it, how that compares with what was meant and with what can be worked, and the backlog it is filled from. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const id = String(route.params['id'])
const plan = ref<PlanAnswer>()
const teams = ref<readonly TeamAnswer[]>([])
const open = ref<'change' | 'finish'>()
const chosen = ref<Chosen>(noneChosen)
const total = ref(0)
const order = ref<SortBy[]>([{ by: 'priority', direction: 'up' }])
const table = ref<InstanceType<typeof ItemTable>>()

type Part = keyof PlanAnswer['outcome']
/** which part of it is listed; the whole with its backlog where none is */
const part = ref<Part>()

async function load(): Promise<void> {
  await notes.attempt(async () => {
    plan.value = await call('GET /iterations/{id}/plan', { params: { id } })
  })
}
onMounted(async () => {
  await load()
  await notes.attempt(async () => {
    teams.value = (await call('GET /teams')).teams
  })
})
function refresh(): void {
  void load()
  table.value?.refresh()
}
whenChanged(refresh)

const iteration = computed(() => plan.value?.iteration)
const team = computed(() => teams.value.find((one) => one.id === iteration.value?.team?.id))
const mayPlan = computed(
  () =>
    session.mayDefine ||
    (session.mayEdit && team.value?.people.includes(session.session?.person.id ?? '')),
)
const isOver = computed(() => iteration.value?.state === 'finished')

const parts = computed((): { readonly part: Part; readonly title: string }[] => [
  { part: 'inside', title: isOver.value ? 'were in it' : 'in it' },
  { part: 'done', title: 'done' },
  { part: 'open', title: isOver.value ? 'were open' : 'open' },
  ...(iteration.value?.state === 'planned'
    ? []
    : ([
        { part: 'committed', title: 'committed' },
        { part: 'later', title: 'came in later' },
        { part: 'left', title: 'taken out' },
      ] as const)),
])

const isIn = { op: '=', args: [{ property: 'iteration' }, id] }
/** What the team could take in: its open work that is in no iteration. */
const backlog = computed((): Segment[] => {
  if (!team.value?.remit.text || isOver.value) return []
  const filter = {
    op: 'and',
    args: [
      team.value.remit.kept,
      { op: 'in', args: [{ property: 'phase' }, ['idle', 'active']] },
      { op: 'isNull', args: [{ property: 'iteration' }] },
    ],
  }
  return [{ key: 'backlog', title: `Backlog of ${team.value.title}`, filter }]
})
const listed = (refs: readonly string[]): unknown => ({
  op: 'in',
  args: [{ property: 'ref' }, [...refs]],
})
const segments = computed((): Segment[] => {
  const shown = isOver.value ? (part.value ?? 'inside') : part.value
  if (shown) {
    const refs = plan.value?.outcome[shown].refs ?? []
    return refs.length > 0 ? [{ key: shown, filter: listed(refs) }] : []
  }
  return [{ key: 'inside', title: 'In it', filter: isIn }, ...backlog.value]
})
const filter = computed(() =>
  segments.value.length > 1
    ? { op: 'or', args: segments.value.map((one) => one.filter) }
    : segments.value[0]?.filter,
)

async function start(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('POST /iterations/{id}/start', { params: { id } })
  })
  if (wentWell) refresh()
}

/** Puts what is chosen into it, or takes it out again, as one change that can be undone. */
async function put(place: string | null): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    const over = await carryOut(
      itemsOf(chosen.value, filter.value),
      { set: { iteration: place } },
      countChosen(chosen.value, total.value),
      () => undefined,
    )
    notes.show('well', outcomeWords(over), {
      title: 'Undo',
      run: () =>
        void notes.attempt(async () => {
          await undo(over.id, () => undefined)
          refresh()
        }),
    })
  })
  if (!wentWell) return
  chosen.value = noneChosen
  refresh()
}

function finished(): void {
  open.value = undefined
  refresh()
}
const columns = ['ref', 'type', 'title', 'status', 'priority', 'estimate', 'assignee']
</script>

<template>
  <section class="sheet fixed">
    <div class="row">
      <div class="grow">
        <h1>{{ iteration?.title }}</h1>
        <p class="meta">
          <RouterLink to="/work">Work</RouterLink> /
          <RouterLink to="/iterations">Iterations</RouterLink>
          <template v-if="iteration">
            · {{ iteration.team?.title ?? 'the whole workspace' }} ·
            {{ daysWords(iteration, session.now) }} · {{ iteration.state }}</template
          >
        </p>
      </div>
      <div v-if="iteration && mayPlan" class="acts">
        <Button severity="secondary" label="Change …" @click="open = 'change'" />
        <Button v-if="iteration.state === 'planned'" label="Start" @click="start" />
        <Button v-if="iteration.state === 'running'" label="Finish …" @click="open = 'finish'" />
      </div>
    </div>
    <p v-if="iteration?.goal" class="goal">{{ iteration.goal }}</p>
    <div v-if="plan" class="figures" role="group" aria-label="What became of it">
      <Button
        v-for="one in parts"
        :key="one.part"
        variant="text"
        severity="secondary"
        class="figure"
        :aria-pressed="part === one.part"
        @click="part = part === one.part ? undefined : one.part"
      >
        <b>{{ plan.outcome[one.part].refs.length }}</b>
        <span>{{ one.title }}</span>
        <span class="quiet">{{ sumWords(plan.outcome[one.part]) }}</span>
      </Button>
      <span v-if="plan.outcome.inside.unestimated" class="quiet rest"
        >{{ counted(plan.outcome.inside.unestimated, 'item') }} without an estimate</span
      >
    </div>
    <ItemTable
      v-if="plan && segments.length"
      ref="table"
      v-bind="session.mayEdit ? { chosen } : {}"
      :label="`Items of ${plan.iteration.title}`"
      :segments="segments"
      :columns="columns"
      :order="order"
      @answered="total = $event.total"
      @sort="order = $event"
      @update:chosen="chosen = $event ?? noneChosen"
    >
      <template #empty><p class="blank">Nothing is in it, and nothing waits for it.</p></template>
    </ItemTable>
    <p v-else-if="plan" class="blank">There is nothing of this kind.</p>
    <ManyBar
      v-if="session.mayEdit && plan"
      v-model:chosen="chosen"
      :filter="filter"
      :total="total"
      @done="refresh"
    >
      <Button severity="secondary" label="Take out" @click="put(null)" />
      <Button v-if="!isOver" severity="secondary" label="Put in" @click="put(id)" />
    </ManyBar>
    <ChangeIteration
      v-if="open === 'change' && iteration"
      :iteration="iteration"
      @close="open = undefined"
      @changed="finished"
      @deleted="router.push('/iterations')"
    />
    <FinishSheet
      v-if="open === 'finish' && plan"
      :plan="plan"
      @close="open = undefined"
      @finished="finished"
    />
  </section>
  <Capacity :plan="plan" />
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
