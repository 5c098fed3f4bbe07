<script setup lang="ts">
import { seriesAfter, type Series } from '@bluestem/core/iterations'
import type { ReleaseAnswer } from '@bluestem/core/releases'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { call, messagesOf } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import SeriesFields from '../iterations/SeriesFields.vue'
import Several from '../parts/Several.vue'
import Sheet from '../parts/Sheet.vue'
import { dayIn } from '../parts/zone.ts'
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
  const before = releases.filter((one) => one.projects.some(({ id }) => ids.includes(id)))
  return { ...seriesAfter(before, 'Release {n}', dayIn(session.now)), weeks: 13, count: 4 }
}
const series = ref(goingOn(own.value))
watch(own, (ids) => {
  const { weeks, count } = series.value
  series.value = { ...goingOn(ids), weeks, count }
})
const refusals = ref<readonly string[]>([])
const busy = ref(false)

async function make(): Promise<void> {
  busy.value = true
  refusals.value = []
  try {
    const { releases: made } = await call('POST /releases/series', {
      body: { ...series.value, projects: [...own.value] },
    })
    emit('made', made[0]!)
  } catch (error) {
    refusals.value = messagesOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet title="Plan a series of releases" @close="emit('close')">
    <form @submit.prevent="make">
      <SeriesFields v-model="series" :longest="52">
        <div class="field">
          <span>Projects that they belong to</span
          ><Several v-model="own" label="Projects that they belong to" :options="projects" />
        </div>
      </SeriesFields>
      <p v-for="line in refusals" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || !own.length || !series.name.trim() || !series.first"
          :label="series.count === 1 ? 'Make it' : `Make ${series.count}`"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </form>
  </Sheet>
</template>
