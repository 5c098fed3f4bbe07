<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Widget } from '@bluestem/core/dashboards'
import type { SavedMeasure, SavedQuery } from '../api/types.ts'
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
</script>

<template>
  <MakeMeasure v-if="making" :queries="queries" @close="making = false" @made="measured" />
  <Sheet v-else title="Add a widget" @close="emit('close')">
    <form @submit.prevent="add">
      <label class="field"
        ><span>It shows</span
        ><select v-model="kind" autofocus>
          <option v-for="[id, words] in kinds" :key="id" :value="id">{{ words }}</option>
        </select></label
      >
      <label v-if="kind === 'list'" class="field"
        ><span>The answers of</span
        ><select v-model="query">
          <option v-for="one in queries" :key="one.id" :value="one.id">{{ one.title }}</option>
        </select></label
      >
      <div v-else class="field">
        <span>Measure</span
        ><select v-model="measure" aria-label="Measure">
          <option v-for="one in measures" :key="one.id" :value="one.id">
            {{ one.title }}
          </option></select
        >{{ ' '
        }}<button class="plain" type="button" @click="making = true">a new measure …</button>
      </div>
      <label v-if="kind === 'bars' || kind === 'course'" class="field"
        ><span>By</span
        ><select v-model="by">
          <option v-if="kind === 'course'" value="">nothing</option>
          <option v-for="one in vocabulary.groupable" :key="one.handle" :value="one.handle">
            {{ one.title }}
          </option>
          <option value="labels">Labels</option>
          <option value="components">Components</option>
        </select></label
      >
      <div v-if="kind === 'figure' || kind === 'course'" class="row">
        <label class="field grow"
          ><span>Over</span
          ><select v-model.number="days">
            <option :value="30">30 days</option>
            <option :value="91">a quarter</option>
            <option :value="182">half a year</option>
            <option :value="365">a year</option>
            <option :value="540">18 months</option>
          </select></label
        >
        <label class="field grow"
          ><span>In</span
          ><select v-model="step">
            <option value="day">days</option>
            <option value="week">weeks</option>
            <option value="month">months</option>
          </select></label
        >
      </div>
      <label class="field"
        ><span>Title</span><input v-model="title" type="text" maxlength="120" :placeholder="usual"
      /></label>
      <div class="acts">
        <button class="act main" type="submit" :disabled="kind === 'list' ? !query : !measure">
          Add it</button
        ><button class="act" type="button" @click="emit('close')">Not now</button>
      </div>
    </form>
  </Sheet>
</template>
