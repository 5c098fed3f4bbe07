<script setup lang="ts">
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { get } from '../api/http.ts'
import type { SavedQuery, SavedView } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../app/session.store.ts'
import { agoWords } from '../parts/words.ts'

const session = useSession()
const vocabulary = useVocabulary()
const views = ref<readonly SavedView[]>()
const queries = ref<readonly SavedQuery[]>([])
onMounted(async () => {
  const [all, asked] = await Promise.all([
    get<{ views: readonly SavedView[] }>('/views'),
    get<{ queries: readonly SavedQuery[] }>('/queries'),
  ])
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
    <table v-if="views?.length" class="ledger">
      <thead>
        <tr>
          <th scope="col">Title</th>
          <th scope="col">Kind</th>
          <th scope="col">Arranged by</th>
          <th scope="col">The answers of</th>
          <th scope="col">Shared with</th>
          <th scope="col">Kept by</th>
          <th scope="col" class="num">Changed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="view in views" :key="view.id">
          <td>
            <RouterLink :to="`/views/${view.id}`">{{ view.title }}</RouterLink>
          </td>
          <td class="quiet">{{ view.content.kind }}</td>
          <td class="quiet">
            {{
              view.content.board
                ? `columns by ${vocabulary.title(view.content.board.by).toLowerCase()}`
                : view.content.group
                  ? `grouped by ${vocabulary.title(view.content.group).toLowerCase()}`
                  : 'ungrouped'
            }}
          </td>
          <td>
            <RouterLink :to="`/queries/${view.content.query}`">{{
              queryOf(view)?.title ?? 'a query you may not see'
            }}</RouterLink>
          </td>
          <td class="quiet">{{ view.shared === 'everyone' ? 'everyone' : 'only me' }}</td>
          <td class="quiet">{{ view.owner.title }}</td>
          <td class="quiet num">{{ agoWords(view.changedAt, session.now) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="views" class="blank">
      Here the lists and boards would stand that you keep or that others share. A view starts from a
      query: <RouterLink to="/queries">choose one</RouterLink>.
    </p>
  </section>
</template>
