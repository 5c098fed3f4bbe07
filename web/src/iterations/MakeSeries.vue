<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import { type IterationAnswer, seriesAfter, type Series } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import { ref, watch } from 'vue'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import Choice from '../parts/Choice.vue'
import { dayIn } from '../session/zone.ts'
import SeriesSheet from './SeriesSheet.vue'

/** Iterations of one length that follow each other, named by a rule: one, or a season of them. */
const {
  teams,
  iterations,
  team: first = '',
} = defineProps<{
  /** the teams one may plan for */
  teams: readonly TeamAnswer[]
  /** all there are, of which those of the team are gone on with */
  iterations: readonly IterationAnswer[]
  team?: string
}>()
const emit = defineEmits<{ close: []; made: [IterationAnswer] }>()
const session = useSession()
const team = ref(first || (teams[0]?.id ?? ''))
const goingOn = (id: string): Series => {
  const own = iterations.filter((iteration) => (iteration.team?.id ?? '') === id)
  return { ...seriesAfter(own, 'Iteration {n}', dayIn(session.now)), weeks: 2, count: 1 }
}
const series = ref(goingOn(team.value))
watch(team, (id) => {
  const { weeks, count } = series.value
  series.value = { ...goingOn(id), weeks, count }
})

async function make(): Promise<void> {
  const { iterations: made } = await call('POST /iterations/series', {
    body: { ...series.value, team: team.value || null },
  })
  emit('made', firstIn(made))
}
</script>

<template>
  <SeriesSheet
    v-model="series"
    title="Plan iterations"
    :longest="12"
    :make="make"
    @close="emit('close')"
  >
    <div class="field">
      <span>Whose</span>
      <Choice
        v-model="team"
        label="Whose"
        :options="teams.map(({ id, title }) => ({ id, title }))"
        v-bind="session.mayDefine ? { none: 'the whole workspace' } : {}"
      />
    </div>
  </SeriesSheet>
</template>
