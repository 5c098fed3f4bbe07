<script setup lang="ts">
import type { IterationAnswer } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import Column from 'primevue/column'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../app/session.store.ts'
import Choice from '../parts/Choice.vue'
import DoneBar from '../parts/DoneBar.vue'
import Ledger from '../parts/Ledger.vue'
import { useNotes } from '../parts/notes.store.ts'
import MakeSeries from './MakeSeries.vue'
import { daysWords } from './words.ts'

/** The iterations of all teams: what is planned, what runs, what is over. */
const session = useSession()
const notes = useNotes()
const router = useRouter()
const iterations = ref<readonly IterationAnswer[]>()
const teams = ref<readonly TeamAnswer[]>([])
const team = ref('')
const selected = ref<string>()
const making = ref(false)

async function load(): Promise<void> {
  await notes.attempt(async () => {
    const [found, { teams: all }] = await Promise.all([call('GET /iterations'), call('GET /teams')])
    iterations.value = found.iterations
    teams.value = all
  })
}
onMounted(load)
whenChanged(() => void load())

const me = computed(() => session.session?.person.id)
const ownTeams = computed(() =>
  session.mayDefine
    ? teams.value
    : teams.value.filter(({ people }) => people.includes(me.value ?? '')),
)
const mayPlan = computed(() => session.mayEdit && (session.mayDefine || ownTeams.value.length > 0))
const states = ['running', 'planned', 'finished']
/** What runs stands first, then what comes next, then what is over, the latest first. */
const rows = computed(() =>
  (iterations.value ?? [])
    .filter((one) => team.value === '' || one.team?.id === team.value)
    .toSorted((a, b) => {
      const byDay = (a.start ?? '').localeCompare(b.start ?? '')
      return (
        states.indexOf(a.state) - states.indexOf(b.state) ||
        (a.state === 'finished' ? -byDay : byDay)
      )
    }),
)
const open = ({ id }: IterationAnswer): void => void router.push(`/iterations/${id}`)
</script>

<template>
  <section class="sheet">
    <h1>Iterations</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / spans of days that the work of a team is planned
      into
    </p>
    <div class="acts bar">
      <Choice
        v-model="team"
        label="Whose iterations"
        none="all teams"
        inline
        :options="teams.map(({ id, title }) => ({ id, title }))"
      />
      <span class="grow" />
      <Button v-if="mayPlan" label="Plan iterations" @click="making = true" />
    </div>
    <Ledger
      v-if="rows.length"
      v-model:selected="selected"
      :rows="rows"
      label="Iterations"
      :mark="(one) => ({ over: one.state === 'finished' })"
      @open="open"
    >
      <Column header="Iteration" sortable sort-field="title">
        <template #body="{ data: row }: { data: IterationAnswer }"
          ><RouterLink :to="`/iterations/${row.id}`" tabindex="-1">{{
            row.title
          }}</RouterLink></template
        >
      </Column>
      <Column header="Whose" sortable sort-field="team.title" class="nowrap">
        <template #body="{ data: row }: { data: IterationAnswer }">{{
          row.team?.title ?? 'the whole workspace'
        }}</template>
      </Column>
      <Column header="Days" sortable sort-field="start" class="nowrap">
        <template #body="{ data: row }: { data: IterationAnswer }">{{
          daysWords(row, session.now)
        }}</template>
      </Column>
      <Column header="State" field="state" sortable class="nowrap" />
      <Column header="Done" class="nowrap">
        <template #body="{ data: row }: { data: IterationAnswer }">
          <DoneBar
            v-if="row.items"
            :done="row.done"
            :of="row.items"
            :label="`Done of ${row.title}`"
          />
          <span v-else class="quiet">nothing in it</span>
        </template>
      </Column>
      <Column header="Goal">
        <template #body="{ data: row }: { data: IterationAnswer }"
          ><span class="quiet">{{ row.goal }}</span></template
        >
      </Column>
    </Ledger>
    <p v-else-if="iterations" class="blank">
      Here the iterations {{ team ? 'of this team ' : '' }}would stand.
      <template v-if="mayPlan">Plan the first ones: a name, a first day, a length.</template>
    </p>
    <MakeSeries
      v-if="making"
      :teams="ownTeams"
      :iterations="iterations ?? []"
      :team="team"
      @close="making = false"
      @made="open"
    />
  </section>
</template>

<style scoped>
.bar {
  margin: 10px 0;
  align-items: center;
}
</style>
