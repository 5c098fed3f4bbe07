<script setup lang="ts">
import type { SavedView } from '@bluestem/core/views'
import type { SavedQuery } from '@bluestem/core/queries'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import { agoWords } from '../parts/words.ts'

const session = useSession()
const vocabulary = useVocabulary()
const views = ref<readonly SavedView[]>()
const queries = ref<readonly SavedQuery[]>([])
onMounted(async () => {
  const [all, asked] = await Promise.all([call('GET /views'), call('GET /queries')])
  views.value = all.views
  queries.value = asked.queries
})
const queryOf = (view: SavedView): SavedQuery | undefined =>
  queries.value.find((query) => query.id === view.content.query)
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Views</h1>
        <p class="meta">queries arranged: as a list, or as a board</p>
      </div>
      <Button as="router-link" v-if="session.mayEdit" to="/views/new" label="New view" />
    </div>
    <DataTable
      v-if="views?.length"
      :value="[...views]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Views' }"
      ><Column header="Title" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: view }"
          ><RouterLink :to="`/views/${view.id}`">{{ view.title }}</RouterLink></template
        ></Column
      >
      <Column header="Kind"
        ><template #body="{ data: view }"
          ><span class="quiet">{{ view.content.kind }}</span></template
        ></Column
      >
      <Column header="Arranged by"
        ><template #body="{ data: view }"
          ><span class="quiet">{{
            view.content.board
              ? `columns by ${vocabulary.title(view.content.board.by).toLowerCase()}`
              : view.content.group
                ? `grouped by ${vocabulary.title(view.content.group).toLowerCase()}`
                : 'ungrouped'
          }}</span></template
        ></Column
      >
      <Column header="The answers of"
        ><template #body="{ data: view }"
          ><RouterLink :to="`/queries/${view.content.query}`">{{
            queryOf(view)?.title ?? 'a query you may not see'
          }}</RouterLink></template
        ></Column
      >
      <Column header="Shared with" sortable sort-field="shared"
        ><template #body="{ data: view }"
          ><span class="quiet">{{
            view.shared === 'everyone' ? 'everyone' : 'only me'
          }}</span></template
        ></Column
      >
      <Column header="Kept by" sortable sort-field="owner.title" class="nowrap"
        ><template #body="{ data: view }"
          ><span class="quiet">{{ view.owner.title }}</span></template
        ></Column
      >
      <Column header="Changed" sortable sort-field="changedAt" class="num"
        ><template #body="{ data: view }"
          ><span class="quiet">{{ agoWords(view.changedAt, session.now) }}</span></template
        ></Column
      ></DataTable
    >
    <p v-else-if="views" class="blank">
      Here the lists and boards would stand that you keep or that others share. A view starts from a
      query: <RouterLink to="/queries">choose one</RouterLink>.
    </p>
  </section>
</template>
