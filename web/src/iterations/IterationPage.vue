<script setup lang="ts">
import type { FinishIteration, PlanAnswer } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import Capacity from './Capacity.vue'
import ChangeIteration from './ChangeIteration.vue'
import FinishSheet from './FinishSheet.vue'
import SpanItems from './SpanItems.vue'
import { daysWords } from './words.ts'

/** One iteration: what is in it, how that compares with what was meant and with what can be worked, and the backlog it is filled from. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const id = String(route.params['id'])
const plan = ref<PlanAnswer>()
const teams = ref<readonly TeamAnswer[]>([])
const open = ref<'change' | 'finish'>()
const items = ref<InstanceType<typeof SpanItems>>()

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
  items.value?.refresh()
}
whenChanged(refresh)

const iteration = computed(() => plan.value?.iteration)
const team = computed(() => teams.value.find((entry) => entry.id === iteration.value?.team?.id))
const mayPlan = computed(
  () =>
    session.mayDefine ||
    (session.mayEdit && team.value?.people.includes(session.session?.person.id ?? '')),
)
/** What the team could take in: its open work that is in no iteration. */
const backlog = computed(() =>
  team.value?.remit.text
    ? { title: `Backlog of ${team.value.title}`, filter: team.value.remit.kept }
    : undefined,
)

async function start(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('POST /iterations/{id}/start', { params: { id } })
  })
  if (wentWell) refresh()
}
const finish = async (body: FinishIteration): Promise<unknown> =>
  await call('POST /iterations/{id}/finish', { params: { id }, body })

function finished(): void {
  open.value = undefined
  refresh()
}
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
    <SpanItems
      v-if="plan"
      ref="items"
      handle="iteration"
      :span="plan.iteration"
      :outcome="plan.outcome"
      :backlog="backlog"
      @changed="load"
    />
    <ChangeIteration
      v-if="open === 'change' && iteration"
      :iteration="iteration"
      @close="open = undefined"
      @changed="finished"
      @deleted="router.push('/iterations')"
    />
    <FinishSheet
      v-if="open === 'finish' && plan"
      :span="plan.iteration"
      :outcome="plan.outcome"
      :next="plan.next"
      :finish="finish"
      @close="open = undefined"
      @finished="finished"
    />
  </section>
  <Capacity :plan="plan" />
</template>
