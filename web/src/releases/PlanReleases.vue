<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import { seriesAfter, type Series } from '@bluestem/core/iterations'
import type { ReleaseAnswer } from '@bluestem/core/releases'
import { ref, watch } from 'vue'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import SeriesSheet from '../iterations/SeriesSheet.vue'
import Several from '../parts/Several.vue'
import { dayIn } from '../session/zone.ts'
import { beginWith } from './beginWith.ts'

/** Releases that follow each other, each of which comes out on its last day, named by a rule. */
const {
  projects,
  releases,
  project = '',
} = defineProps<{
  /** those that whoever plans keeps */
  projects: readonly { readonly id: string; readonly title: string }[]
  /** all there are, of which those of the chosen projects are gone on with */
  releases: readonly ReleaseAnswer[]
  project?: string
}>()
const emit = defineEmits<{ close: []; made: [ReleaseAnswer] }>()
const session = useSession()
const own = ref(beginWith(projects, project))
const goingOn = (ids: readonly string[]): Series => {
  const before = releases.filter((release) => release.projects.some(({ id }) => ids.includes(id)))
  return { ...seriesAfter(before, 'Release {n}', dayIn(session.now)), weeks: 13, count: 4 }
}
const series = ref(goingOn(own.value))
watch(own, (ids) => {
  const { weeks, count } = series.value
  series.value = { ...goingOn(ids), weeks, count }
})

async function make(): Promise<void> {
  const { releases: made } = await call('POST /releases/series', {
    body: { ...series.value, projects: [...own.value] },
  })
  emit('made', firstIn(made))
}
</script>

<template>
  <SeriesSheet
    v-model="series"
    title="Plan a series of releases"
    :longest="52"
    :is-owned="own.length > 0"
    :make="make"
    @close="emit('close')"
  >
    <div class="field">
      <span>Projects that they belong to</span
      ><Several v-model="own" label="Projects that they belong to" :options="projects" />
    </div>
  </SeriesSheet>
</template>
