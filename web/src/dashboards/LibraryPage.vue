<script setup lang="ts">
import type { SavedDashboard } from '@bluestem/core/dashboards'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import KeepAs from '../parts/KeepAs.vue'
import { agoWords, counted } from '../parts/words.ts'

const session = useSession()
const router = useRouter()
const dashboards = ref<readonly SavedDashboard[]>()
const making = ref(false)
onMounted(async () => {
  dashboards.value = (await call('GET /dashboards')).dashboards
})

async function make(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  const made = await call('POST /dashboards', { body: { ...given, content: { widgets: [] } } })
  await router.push(`/dashboards/${made.id}`)
}
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Dashboards</h1>
        <p class="meta">figures defined once, placed where they are looked at</p>
      </div>
      <Button
        as="router-link"
        severity="secondary"
        to="/dashboards/measures"
        label="Measures"
      /><Button v-if="session.mayEdit" @click="making = true" label="New dashboard" />
    </div>
    <DataTable
      v-if="dashboards?.length"
      :value="[...dashboards]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Dashboards' }"
      ><Column header="Title" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: entry }"
          ><RouterLink :to="`/dashboards/${entry.id}`">{{ entry.title }}</RouterLink></template
        ></Column
      >
      <Column header="What it is for"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ entry.description }}</span></template
        ></Column
      >
      <Column header="Widgets" class="num"
        ><template #body="{ data: entry }">{{
          counted(entry.content.widgets.length, 'widget')
        }}</template></Column
      >
      <Column header="Shared with" sortable sort-field="shared"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{
            entry.shared === 'everyone' ? 'everyone' : 'only me'
          }}</span></template
        ></Column
      >
      <Column header="Kept by" sortable sort-field="owner.title" class="nowrap"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ entry.owner.title }}</span></template
        ></Column
      >
      <Column header="Changed" sortable sort-field="changedAt" class="num"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ agoWords(entry.changedAt, session.now) }}</span></template
        ></Column
      ></DataTable
    >
    <p v-else-if="dashboards" class="blank">
      Here the dashboards would stand that you keep or that others share. Define a
      <RouterLink to="/dashboards/measures">measure</RouterLink> over a query, then place it on one.
    </p>
    <KeepAs
      v-if="making"
      what="dashboard"
      title=""
      description=""
      shared="me"
      :keep="make"
      @close="making = false"
    />
  </section>
</template>
