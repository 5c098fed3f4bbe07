<script setup lang="ts">
import { lastIn } from '@bluestem/core/known'
import { type Series, spansOf } from '@bluestem/core/iterations'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import { useSession } from '../session/session.store.ts'
import DayPicker from '../parts/DayPicker.vue'
import { daysWords } from './words.ts'

/** The rule of a series, and what it would make; whose it is stands in the slot. */
const series = defineModel<Series>({ required: true })
const { longest } = defineProps<{
  /** of how many weeks each can be at most */
  longest: number
}>()
const session = useSession()
const shown = 4

function part<Name extends keyof Series>(name: Name) {
  return computed({
    get: () => series.value[name],
    set: (value: Series[Name]) => {
      series.value = { ...series.value, [name]: value }
    },
  })
}
const name = part('name')
const number = part('number')
const weeks = part('weeks')
const count = part('count')
const first = computed({
  get: (): string | null => series.value.first || null,
  set: (day) => {
    series.value = { ...series.value, first: day ?? '' }
  },
})
const isWhole = computed(() => name.value.trim() !== '' && series.value.first !== '')
const spans = computed(() => (isWhole.value ? spansOf(series.value) : []))
</script>

<template>
  <div class="pairs">
    <slot />
    <label class="field"
      ><span>Name</span
      ><InputText v-model="name" maxlength="60" required fluid aria-describedby="rule"
    /></label>
    <label class="field"
      ><span>Number of the first</span
      ><InputNumber v-model="number" :min="0" :max="100000" :use-grouping="false" fluid
    /></label>
    <div class="field"><span>First day</span><DayPicker v-model="first" label="First day" /></div>
    <label class="field"
      ><span>Weeks each</span
      ><InputNumber v-model="weeks" :min="1" :max="longest" show-buttons fluid
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
      and {{ spans.length - shown }} more, until {{ daysWords(lastIn(spans), session.now) }}
    </li>
  </ul>
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
