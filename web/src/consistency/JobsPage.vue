<script setup lang="ts">
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import ProgressBar from 'primevue/progressbar'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { JobAnswer, JobState } from '@bluestem/core/jobs'
import { call } from '../api/http.ts'
import { onChange } from '../api/live.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import { momentWords, numberWords } from '../parts/words.ts'

/** What Bluestem does by itself: how far it is, what failed, and what one may do about it. */
const session = useSession()
const notes = useNotes()
const jobs = ref<readonly JobAnswer[]>()

/** What needs somebody stands first, then what is under way, then what is over. */
const urgency: readonly JobState[] = ['given up', 'tried again', 'at work', 'waiting']
const rank = ({ state }: JobAnswer): number => {
  const at = urgency.indexOf(state)
  return at < 0 ? urgency.length : at
}
const sorted = computed(() => jobs.value && [...jobs.value].sort((a, b) => rank(a) - rank(b)))
const isTryable = ({ state }: JobAnswer): boolean => state === 'given up' || state === 'tried again'

async function load(): Promise<void> {
  await notes.attempt(async () => {
    jobs.value = (await call('GET /jobs')).jobs
  })
}

function stateWords({ state, at, attempts }: JobAnswer): string {
  const when = momentWords(at, session.now)
  const times = attempts === 1 ? 'once' : `${attempts} times`
  switch (state) {
    case 'waiting':
      return `waits until ${when}`
    case 'tried again':
      return `failed ${times}, tried again ${when}`
    case 'given up':
      return `failed ${times}, not tried again`
    case 'at work':
      return 'at work'
    default:
      return `${state} ${when}`
  }
}
const percent = ({ done, total }: JobAnswer): number =>
  Math.min(100, Math.floor((done * 100) / total))

async function tryNow(job: JobAnswer): Promise<void> {
  await notes.attempt(async () => {
    await call('POST /jobs/{key}/try', { params: { key: job.key } })
    await load()
  })
}
async function cancel(job: JobAnswer): Promise<void> {
  await notes.attempt(async () => {
    await call('DELETE /jobs/{key}', { params: { key: job.key } })
    await load()
    notes.show('well', `${job.title}: cancelled. The draft is kept.`)
  })
}

const concerns = new Set(['job', 'mapping', 'draft', 'edition', 'everything'])
const stop = onChange(({ kind }) => {
  if (concerns.has(kind)) void load()
})
onMounted(load)
onBeforeUnmount(stop)
</script>

<template>
  <section class="sheet">
    <h1>Jobs</h1>
    <p class="meta">
      <RouterLink to="/consistency">Consistency</RouterLink> / what Bluestem does by itself, and
      what became of it in the last 30 days
    </p>
    <DataTable
      v-if="sorted?.length"
      :value="sorted"
      data-key="key"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Jobs' }"
      ><Column header="Job"
        ><template #body="{ data: job }"
          ><b>{{ job.title }}</b>
          <span v-if="job.by" class="quiet"> for {{ job.by }}</span></template
        ></Column
      >
      <Column header="How it stands"
        ><template #body="{ data: job }"
          ><span :class="{ warn: isTryable(job), quiet: rank(job) === urgency.length }">{{
            stateWords(job)
          }}</span>
          <div v-if="job.reason" class="reason">{{ job.reason }}</div></template
        ></Column
      >
      <Column header="Progress" class="how-far"
        ><template #body="{ data: job }"
          ><template v-if="job.total"
            ><ProgressBar
              v-if="job.state === 'at work'"
              :value="percent(job)"
              :show-value="false"
              :aria-label="`Progress of ${job.title}`"
            /><span class="quiet"
              >{{ numberWords(job.done) }} of {{ numberWords(job.total) }}</span
            ></template
          ></template
        ></Column
      >
      <Column class="remedy"
        ><template #body="{ data: job }"
          ><Button
            v-if="isTryable(job)"
            severity="secondary"
            size="small"
            label="Try again now"
            :aria-label="`Try again now: ${job.title}`"
            @click="tryNow(job)" /><Button
            v-if="job.cancellable"
            severity="secondary"
            size="small"
            label="Cancel"
            :aria-label="`Cancel: ${job.title}`"
            @click="cancel(job)" /></template></Column
    ></DataTable>
    <p v-else-if="sorted" class="blank">
      Nothing is under way. Here stands what takes long after an edition is published, and what is
      set for later.
    </p>
  </section>
</template>

<style scoped>
.reason {
  font-size: 12.5px;
  max-width: 62ch;
  overflow-wrap: anywhere;
}
:deep(.how-far) {
  width: 170px;
}
:deep(.remedy) {
  width: 130px;
  text-align: right;
}
</style>
