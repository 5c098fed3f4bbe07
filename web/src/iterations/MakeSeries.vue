<script setup lang="ts">
import { type IterationAnswer, nextStart, spansOf } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { call, messagesOf } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import Choice from '../parts/Choice.vue'
import DayPicker from '../parts/DayPicker.vue'
import Sheet from '../parts/Sheet.vue'
import { dayIn } from '../parts/zone.ts'
import { daysWords } from './words.ts'

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
const name = ref('')
const number = ref(1)
const start = ref<string | null>(null)
const weeks = ref(2)
const count = ref(1)
const refusals = ref<readonly string[]>([])
const busy = ref(false)

/** A team goes on as it did: with the rule of its last title, its length, and the day after it. */
watch(
  team,
  (id) => {
    const own = iterations.filter((one) => (one.team?.id ?? '') === id)
    const last = own.toSorted((a, b) => (a.end ?? '').localeCompare(b.end ?? '')).at(-1)
    const found = /^(.*?)(\d+)(\D*)$/.exec(last?.title ?? '')
    name.value = found ? `${found[1]}{n}${found[3]}` : 'Iteration {n}'
    number.value = found ? Number(found[2]) + 1 : own.length + 1
    start.value = nextStart(own, dayIn(session.now))
  },
  { immediate: true },
)

const series = computed(() => ({
  name: name.value,
  number: number.value,
  first: start.value ?? '',
  weeks: weeks.value,
  count: count.value,
}))
const isWhole = computed(() => name.value.trim() !== '' && start.value !== null)
const spans = computed(() => (isWhole.value ? spansOf(series.value) : []))
const shown = 4

async function make(): Promise<void> {
  busy.value = true
  refusals.value = []
  try {
    const { iterations: made } = await call('POST /iterations/series', {
      body: { ...series.value, team: team.value || null },
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
  <Sheet title="Plan iterations" @close="emit('close')">
    <form @submit.prevent="make">
      <div class="pairs">
        <div class="field">
          <span>Whose</span>
          <Choice
            v-model="team"
            label="Whose"
            :options="teams.map(({ id, title }) => ({ id, title }))"
            v-bind="session.mayDefine ? { none: 'the whole workspace' } : {}"
          />
        </div>
        <label class="field"
          ><span>Name</span
          ><InputText v-model="name" maxlength="60" required fluid aria-describedby="rule"
        /></label>
        <label class="field"
          ><span>Number of the first</span
          ><InputNumber v-model="number" :min="0" :max="100000" :use-grouping="false" fluid
        /></label>
        <div class="field">
          <span>First day</span><DayPicker v-model="start" label="First day" />
        </div>
        <label class="field"
          ><span>Weeks each</span
          ><InputNumber v-model="weeks" :min="1" :max="12" show-buttons fluid
        /></label>
        <label class="field"
          ><span>How many</span><InputNumber v-model="count" :min="1" :max="60" show-buttons fluid
        /></label>
      </div>
      <p id="rule" class="quiet">
        In the name, {n} is the number of each, {week} and {year} the week its first day is in.
      </p>
      <ul class="spans" aria-label="What will be made">
        <li v-for="span in spans.slice(0, shown)" :key="span.start">
          <span>{{ span.title }}</span><span class="quiet">{{ daysWords(span, session.now) }}</span>
        </li>
        <li v-if="spans.length > shown" class="quiet">
          and {{ spans.length - shown }} more, until {{ daysWords(spans.at(-1)!, session.now) }}
        </li>
      </ul>
      <p v-for="line in refusals" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || !isWhole"
          :label="count === 1 ? 'Make it' : `Make ${count}`"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.pairs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 22px;
}
.spans {
  list-style: none;
  margin: 10px 0 14px;
  padding: 0;
}
.spans li {
  display: flex;
  justify-content: space-between;
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
}
</style>
