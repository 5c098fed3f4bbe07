<script setup lang="ts">
import type { SavedQuery } from '@bluestem/core/queries'
import Choice from '../parts/Choice.vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { type SavedMeasure, type Widget, widgetKind, widgetKinds } from '@bluestem/core/dashboards'
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
const own = computed(() => widgetKind(kind.value))
const usual = computed(
  () =>
    (own.value.of === 'query'
      ? queries.find((entry) => entry.id === query.value)?.title
      : measures.find((entry) => entry.id === measure.value)?.title) ?? '',
)

function add(): void {
  const { of, looksBack, size } = own.value
  emit('add', {
    kind: kind.value,
    title: title.value.trim() || usual.value,
    w: size[0],
    h: size[1],
    ...(of === 'query' ? { query: query.value } : { measure: measure.value }),
    ...(looksBack ? { span: { days: days.value, step: step.value } } : {}),
    ...(own.value.by !== 'never' && by.value ? { by: by.value } : {}),
  })
}

function measured(made: SavedMeasure): void {
  making.value = false
  emit('measured', made)
  measure.value = made.id
}
const groups = computed(() => [
  ...vocabulary.groupable.map((entry) => ({ id: entry.handle, title: entry.title })),
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
          :options="widgetKinds.map((id) => ({ id, title: widgetKind(id).words }))"
      /></label>
      <label v-if="own.of === 'query'" class="field"
        ><span>The answers of</span
        ><Choice
          v-model="query"
          label="The answers of"
          :options="queries.map((row) => ({ id: row.id, title: row.title }))"
      /></label>
      <div v-else class="field">
        <span>Measure</span
        ><Choice
          v-model="measure"
          label="Measure"
          :options="measures.map((row) => ({ id: row.id, title: row.title }))"
          inline
        />{{ ' ' }}<Button variant="link" @click="making = true" label="a new measure …" />
      </div>
      <label v-if="own.by !== 'never'" class="field"
        ><span>By</span
        ><Choice
          v-model="by"
          label="By"
          :none="own.by === 'always' ? undefined : 'nothing'"
          :options="groups"
      /></label>
      <div v-if="own.looksBack" class="row">
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
          :disabled="own.of === 'query' ? !query : !measure"
          label="Add it"
        /><Button severity="secondary" @click="emit('close')" label="Not now" />
      </div>
    </form>
  </Sheet>
</template>
