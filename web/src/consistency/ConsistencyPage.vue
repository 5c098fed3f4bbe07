<script setup lang="ts">
import type { SavedView, ArrangedBoard } from '@bluestem/core/views'
import type { SavedQuery } from '@bluestem/core/queries'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import { onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { counted } from '../parts/words.ts'
import { messageOf } from '../api/http.ts'

const session = useSession()
/** What drifted, as far as it can be told from what exists: boards that leave work out, and queries that no longer make sense. */
const hidden = ref<readonly { view: SavedView; count: number; names: string }[]>()
const broken = ref<readonly SavedQuery[]>([])

interface Readable {
  readonly view: SavedView
  readonly elsewhere: ArrangedBoard['elsewhere']
}
interface Unreadable {
  readonly view: SavedView
  readonly reason: string
}
const unreadable = ref<readonly Unreadable[]>([])

/** One board that cannot be read is told as such; the others are looked at all the same. */
async function arrangedOrNot(view: SavedView): Promise<Readable | Unreadable> {
  try {
    const arranged = await call('POST /views/arrange', { body: { view: view.content } })
    return { view, elsewhere: 'elsewhere' in arranged ? arranged.elsewhere : [] }
  } catch (error) {
    return { view, reason: messageOf(error) }
  }
}

onMounted(async () => {
  const [{ views }, { queries }] = await Promise.all([call('GET /views'), call('GET /queries')])
  broken.value = queries.filter((query) => query.errors.length > 0)
  const boards = await Promise.all(
    views.filter((view) => view.content.kind === 'board').map(arrangedOrNot),
  )
  unreadable.value = boards.filter((board): board is Unreadable => 'reason' in board)
  hidden.value = boards
    .filter((board): board is Readable => 'elsewhere' in board)
    .filter(({ elsewhere }) => elsewhere.length > 0)
    .map(({ view, elsewhere }) => ({
      view,
      count: elsewhere.reduce((sum, entry) => sum + entry.count, 0),
      names: elsewhere.map((entry) => entry.shown?.title ?? 'none').join(', '),
    }))
    .sort((a, b) => b.count - a.count)
})
</script>

<template>
  <section class="sheet">
    <h1>Consistency</h1>
    <p class="meta">
      what drifted, the most distorting first
      <template v-if="session.mayDefine">
        · <RouterLink to="/consistency/jobs">jobs</RouterLink></template
      >
    </p>
    <template v-if="hidden">
      <h2>Boards with no place for some of their work</h2>
      <DataTable
        v-if="hidden.length"
        :value="[...hidden]"
        table-class="ledger"
        :table-props="{ 'aria-label': 'Boards with no place for some of their work' }"
        ><Column header="Board"
          ><template #body="{ data: { view } }"
            ><RouterLink :to="`/views/${view.id}`">{{ view.title }}</RouterLink></template
          ></Column
        >
        <Column header="Has no column for"
          ><template #body="{ data: { names } }">{{ names }}</template></Column
        >
        <Column header="Items without a place" class="num"
          ><template #body="{ data: { count } }"
            ><span class="warn">{{ counted(count, 'item') }}</span></template
          ></Column
        ></DataTable
      >
      <p v-else class="well">Every board shows all of its work.</p>
      <template v-if="unreadable.length">
        <h2>Boards that cannot be shown</h2>
        <DataTable
          :value="[...unreadable]"
          table-class="ledger"
          :show-headers="false"
          :table-props="{ 'aria-label': 'Boards that cannot be read' }"
          ><Column
            ><template #body="{ data: { view } }"
              ><RouterLink :to="`/views/${view.id}`">{{ view.title }}</RouterLink></template
            ></Column
          >
          <Column
            ><template #body="{ data: { reason } }"
              ><span class="warn">{{ reason }}</span></template
            ></Column
          ></DataTable
        >
      </template>
      <h2>Queries that name what is no longer defined</h2>
      <DataTable
        v-if="broken.length"
        :value="[...broken]"
        data-key="id"
        table-class="ledger"
        :show-headers="false"
        :table-props="{ 'aria-label': 'Queries that cannot be read' }"
        ><Column
          ><template #body="{ data: query }"
            ><RouterLink :to="`/queries/${query.id}`">{{ query.title }}</RouterLink></template
          ></Column
        >
        <Column
          ><template #body="{ data: query }"
            ><span class="warn">{{ query.errors[0]?.message }}</span></template
          ></Column
        ></DataTable
      >
      <p v-else class="well">Every query one may see makes sense.</p>
    </template>
  </section>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
</style>
