<script setup lang="ts">
import type { SavedQuery } from '@bluestem/core/queries'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import type { MeasureAnswer, SavedMeasure } from '@bluestem/core/dashboards'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import { numberWords } from '../parts/words.ts'
import MakeMeasure from './MakeMeasure.vue'
import { itemsBehind } from '../queries/itemsBehind.ts'
import { evaluate, figureWords } from './measures.ts'

const session = useSession()
const vocabulary = useVocabulary()
const measures = ref<readonly SavedMeasure[]>()
const queries = ref<readonly SavedQuery[]>([])
const values = ref<Record<string, MeasureAnswer>>({})
const presentWords = (id: string): string => {
  const figure = values.value[id]?.total[0]
  return typeof figure === 'number' ? numberWords(figure) : '–'
}
const making = ref(false)

async function load(): Promise<void> {
  const [all, asked] = await Promise.all([call('GET /measures'), call('GET /queries')])
  measures.value = all.measures
  queries.value = asked.queries
  for (const measure of all.measures)
    void evaluate({ measure: measure.id })
      .then((answer) => {
        values.value = { ...values.value, [measure.id]: answer }
      })
      .catch(() => undefined)
}
onMounted(load)
const titleOf = (id: string): string =>
  queries.value.find((query) => query.id === id)?.title ?? 'a query you may not see'

function added(): void {
  making.value = false
  void load()
}
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Measures</h1>
        <p class="meta">
          <RouterLink to="/dashboards">Dashboards</RouterLink> / figures named once, so that
          everybody reports the same
        </p>
      </div>
      <Button v-if="session.mayEdit" @click="making = true" label="New measure" />
    </div>
    <DataTable
      v-if="measures?.length"
      :value="[...measures]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Measures' }"
      ><Column header="Title" sortable sort-field="title"
        ><template #body="{ data: measure }"
          ><b class="nowrap">{{ measure.title }}</b
          >{{ ' ' }}<span class="quiet">{{ measure.description }}</span></template
        ></Column
      >
      <Column header="Figure"
        ><template #body="{ data: measure }"
          ><span class="quiet">{{
            figureWords(measure.content.figure, vocabulary.title)
          }}</span></template
        ></Column
      >
      <Column header="Over"
        ><template #body="{ data: measure }"
          ><RouterLink :to="`/queries/${measure.content.query}`">{{
            titleOf(measure.content.query)
          }}</RouterLink></template
        ></Column
      >
      <Column header="Better"
        ><template #body="{ data: measure }"
          ><span class="quiet">{{ measure.content.better ?? '–' }}</span></template
        ></Column
      >
      <Column header="Target" class="num"
        ><template #body="{ data: measure }"
          ><span class="quiet">{{ measure.content.target ?? '' }}</span></template
        ></Column
      >
      <Column header="Now" class="num nowrap"
        ><template #body="{ data: measure }"
          ><RouterLink v-if="values[measure.id]" :to="itemsBehind(values[measure.id]?.filter)"
            >{{ presentWords(measure.id) }} {{ measure.content.unit }}</RouterLink
          ></template
        ></Column
      >
      <Column header="Shared with" sortable sort-field="shared"
        ><template #body="{ data: measure }"
          ><span class="quiet">{{
            measure.shared === 'everyone' ? 'everyone' : 'only me'
          }}</span></template
        ></Column
      ></DataTable
    >
    <p v-else-if="measures" class="blank">
      Here the figures would stand by which everybody reports. A measure counts or sums the answers
      of a query.
    </p>
    <MakeMeasure v-if="making" :queries="queries" @close="making = false" @made="added" />
  </section>
</template>
