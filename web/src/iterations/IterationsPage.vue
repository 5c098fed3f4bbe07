<script setup lang="ts">
import type { IterationAnswer } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import Choice from '../parts/Choice.vue'
import { useNotes } from '../parts/notes.store.ts'
import MakeSeries from './MakeSeries.vue'
import SpansLedger from './SpansLedger.vue'

/** The iterations of all teams: what is planned, what runs, what is over. */
const session = useSession()
const notes = useNotes()
const router = useRouter()
const iterations = ref<readonly IterationAnswer[]>()
const teams = ref<readonly TeamAnswer[]>([])
const team = ref('')
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
const rows = computed(() =>
  (iterations.value ?? []).filter(
    (iteration) => team.value === '' || iteration.team?.id === team.value,
  ),
)
const whose = (entry: IterationAnswer): string => entry.team?.title ?? 'the whole workspace'
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
    <SpansLedger
      v-if="rows.length"
      :rows="rows"
      label="Iterations"
      what="Iteration"
      :whose="whose"
      path="/iterations"
    />
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
