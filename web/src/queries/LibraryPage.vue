<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { inOneLine, type SavedQuery } from '@bluestem/core/queries'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { agoWords } from '../parts/words.ts'

const session = useSession()
const queries = ref<readonly SavedQuery[]>()
const wanted = ref('')
onMounted(async () => {
  queries.value = (await call('GET /queries')).queries
})
const shown = computed(
  () =>
    queries.value?.filter((query) =>
      `${query.title} ${query.description} ${query.owner.title}`
        .toLowerCase()
        .includes(wanted.value.toLowerCase()),
    ) ?? [],
)
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Queries</h1>
        <p class="meta">saved questions, asked in the same words by everyone</p>
      </div>
      <InputText
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the list"
        placeholder="Narrow the list"
        size="small"
      />
      <Button as="router-link" v-if="session.mayEdit" to="/queries/new" label="New query" /><Button
        as="router-link"
        severity="secondary"
        v-else
        to="/queries/new"
        label="Ask something"
      />
    </div>
    <DataTable
      v-if="shown.length"
      :value="[...shown]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Queries' }"
      ><Column header="Title" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: query }"
          ><RouterLink :to="`/queries/${query.id}`">{{ query.title }}</RouterLink></template
        ></Column
      >
      <Column header="What it asks"
        ><template #body="{ data: query }"
          ><span class="sentence"
            ><span v-if="query.errors.length" class="warn">{{ query.errors[0]?.message }}</span
            ><span v-else class="serif cut">{{ inOneLine(query.sentence) }}</span></span
          ></template
        ></Column
      >
      <Column header="Shared with" sortable sort-field="shared"
        ><template #body="{ data: query }"
          ><span class="quiet">{{
            query.shared === 'everyone' ? 'everyone' : 'only me'
          }}</span></template
        ></Column
      >
      <Column header="Kept by" sortable sort-field="owner.title" class="nowrap"
        ><template #body="{ data: query }"
          ><span class="quiet">{{ query.owner.title }}</span></template
        ></Column
      >
      <Column header="Changed" sortable sort-field="changedAt" class="num"
        ><template #body="{ data: query }"
          ><span class="quiet">{{ agoWords(query.changedAt, session.now) }}</span></template
        ></Column
      ></DataTable
    >
    <p v-else-if="queries && wanted" class="blank">
      No query has “{{ wanted }}” in its title, description or keeper.
    </p>
    <p v-else-if="queries" class="blank">
      Here the questions would stand that you keep or that others share.
      <RouterLink to="/queries/new">Ask the first one.</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.narrow {
  width: 220px;
}
.sentence {
  display: grid;
  font-size: 14px;
}
</style>
