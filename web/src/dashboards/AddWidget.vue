<script setup lang="ts">
import type { SavedQuery } from '@bluestem/core/queries'
import Choice from '../parts/Choice.vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import type { Widget, SavedMeasure } from '@bluestem/core/dashboards'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Sheet from '../parts/Sheet.vue'
import MakeMeasure from './MakeMeasure.vue'

const { measures, queries } = defineProps<{
  measures: readonly SavedMeasure[]
  queries: readonly SavedQuery[]
}>()
const emit = defineEmits<{
  close: []
  add: [Omit<Widget, 'id' | 'x' | 'y'>]
  measured: [SavedMeasure]
}>()
const vocabulary = useVocabulary()
const kinds = [
  ['figure', 'a figure with its course', 3, 2],
  ['bars', 'bars by a field', 5, 4],
  ['course', 'a course over time', 7, 4],
  ['list', 'a list of answers', 6, 4],
] as const
const [kind, measure, query, by, days, step, title] = [
  ref<Widget['kind']>('figure'),
  ref(measures[0]?.id ?? ''),
  ref(queries[0]?.id ?? ''),
  ref('status'),
  ref(182),
  ref<'day' | 'week' | 'month'>('week'),
  ref(''),
]
const making = ref(false)
const usual = computed(
  () =>
    (kind.value === 'list'
      ? queries.find((one) => one.id === query.value)?.title
      : measures.find((one) => one.id === measure.value)?.title) ?? '',
)

function add(): void {
  const [, , w, h] = kinds.find(([id]) => id === kind.value)!
  const spanned =
    kind.value === 'figure' || kind.value === 'course'
      ? { span: { days: days.value, step: step.value } }
      : {}
  const grouped =
    (kind.value === 'bars' || kind.value === 'course') && by.value ? { by: by.value } : {}
  emit('add', {
    kind: kind.value,
    title: title.value.trim() || usual.value,
    w,
    h,
    ...(kind.value === 'list' ? { query: query.value } : { measure: measure.value }),
    ...spanned,
    ...grouped,
  })
}

function measured(made: SavedMeasure): void {
  making.value = false
  emit('measured', made)
  measure.value = made.id
}
const groups = computed(() => [
  ...vocabulary.groupable.map((one) => ({ id: one.handle, title: one.title })),
  { id: 'labels', title: 'Labels' },
  { id: 'components', title: 'Components' },
])
const spans = [
  { id: 30, title: '30 days' },
  { id: 91, title: 'a quarter' },
  { id: 182, title: 'half a year' },
  { id: 365, title: 'a year' },
  { id: 540, title: '18 months' },
]
</script>

<template>
  <MakeMeasure v-if="making" :queries="queries" @close="making = false" @made="measured" />
  <Sheet v-else title="Add a widget" @close="emit('close')">
    <form @submit.prevent="add">
      <label class="field"
        ><span>It shows</span
        ><Choice
          v-model="kind"
          autofocus
          label="It shows"
          :options="kinds.map(([id, words]) => ({ id: id, title: words }))"
      /></label>
      <label v-if="kind === 'list'" class="field"
        ><span>The answers of</span
        ><Choice
          v-model="query"
          label="The answers of"
          :options="queries.map((one) => ({ id: one.id, title: one.title }))"
      /></label>
      <div v-else class="field">
        <span>Measure</span
        ><Choice
          v-model="measure"
          label="Measure"
          :options="measures.map((one) => ({ id: one.id, title: one.title }))"
          inline
        />{{ ' ' }}<Button variant="link" @click="making = true" label="a new measure …" />
      </div>
      <label v-if="kind === 'bars' || kind === 'course'" class="field"
        ><span>By</span
        ><Choice
          v-model="by"
          label="By"
          :none="kind === 'course' ? 'nothing' : undefined"
          :options="groups"
      /></label>
      <div v-if="kind === 'figure' || kind === 'course'" class="row">
        <label class="field grow"
          ><span>Over</span><Choice v-model="days" label="Over" :options="spans"
        /></label>
        <label class="field grow"
          ><span>In</span
          ><Choice
            v-model="step"
            label="In"
            :options="[
              { id: 'day', title: 'days' },
              { id: 'week', title: 'weeks' },
              { id: 'month', title: 'months' },
            ]"
        /></label>
      </div>
      <label class="field"
        ><span>Title</span><InputText v-model="title" maxlength="120" :placeholder="usual" fluid
      /></label>
      <div class="acts">
        <Button
          type="submit"
          :disabled="kind === 'list' ? !query : !measure"
          label="Add it"
        /><Button severity="secondary" @click="emit('close')" label="Not now" />
      </div>
    </form>
  </Sheet>
</template>
