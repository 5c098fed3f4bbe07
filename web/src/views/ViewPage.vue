<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import Button from 'primevue/button'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { cellFilter } from '@bluestem/core/dashboards'
import type { ItemsAnswer, ItemAnswer, SavedQuery } from '@bluestem/core/queries'
import {
  type ViewContent,
  type SavedView,
  type ArrangedBoard,
  type ArrangedList,
} from '@bluestem/core/views'
import { ApiProblem, call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import ExportMenu from '../exchange/ExportMenu.vue'
import ItemTable from '../parts/ItemTable.vue'
import KeepAs from '../parts/KeepAs.vue'
import { useNotes } from '../parts/notes.store.ts'
import { noneChosen } from '../parts/chosen.ts'
import ItemMargin from '../work/ItemMargin.vue'
import MakeHere from '../work/MakeHere.vue'
import ManyBar from '../work/ManyBar.vue'
import Arrange from './Arrange.vue'
import Board from './Board.vue'
import ShownCount from './ShownCount.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const vocabulary = useVocabulary()
const id = String(route.params['id'])
const kept = ref<SavedView>()
const saved = (): SavedView => certain(kept.value, 'view that is shown')
const content = ref<ViewContent>()
const arrangedAs = (): ViewContent => certain(content.value, 'content of a view')
const queries = ref<readonly SavedQuery[]>([])
const arranged = ref<ArrangedList | ArrangedBoard>()
const asBoard = computed(() =>
  arranged.value && 'columns' in arranged.value ? arranged.value : undefined,
)
const arranging = ref(false)
const keeping = ref(false)
const making = ref(false)
const renaming = ref(false)
const missing = ref('')
const selected = ref<ItemAnswer>()
const chosen = ref(noneChosen)
const answers = ref<ItemsAnswer>()
const table = ref<InstanceType<typeof ItemTable>>()

/** A copy to work on, free of what makes the original watched. */
const copyOf = (view: SavedView['content']): ViewContent =>
  // A copy has the shape of what it is of.
  JSON.parse(JSON.stringify(view)) as ViewContent
const changed = computed(
  () =>
    kept.value !== undefined &&
    JSON.stringify(content.value) !== JSON.stringify(kept.value.content),
)

onMounted(async () => {
  try {
    queries.value = (await call('GET /queries')).queries
    if (id === 'new') {
      const query =
        queries.value.find((entry) => entry.id === route.query['query']) ?? queries.value[0]
      if (!query) return void (missing.value = 'A view starts from a query, and there is none yet.')
      content.value = {
        query: query.id,
        kind: 'list',
        columns: [...query.content.columns],
        order: [...query.content.order],
        group: null,
        board: null,
      }
      arranging.value = true
    } else {
      kept.value = await call('GET /views/{id}', { params: { id } })
      content.value = copyOf(kept.value.content)
    }
  } catch (error) {
    missing.value = error instanceof ApiProblem ? error.message : String(error)
  }
})

async function arrange(): Promise<void> {
  if (!content.value) return
  await notes.attempt(async () => {
    arranged.value = await call('POST /views/arrange', { body: { view: arrangedAs() } })
  })
}
watch(content, arrange, { deep: true })

// What others change shows here, in its place.
whenChanged(() => {
  table.value?.refresh()
  void arrange()
})

async function keep(): Promise<void> {
  if (!kept.value?.mayEdit) return void (keeping.value = true)
  await notes.attempt(async () => {
    const body = await call('PATCH /views/{id}', {
      params: { id },
      body: { content: arrangedAs() },
      match: saved().version,
    })
    kept.value = body
    content.value = copyOf(body.content)
    notes.show('well', 'Kept.')
  })
}

async function keepAs(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  const made = await call('POST /views', { body: { ...given, content: arrangedAs() } })
  await router.push(`/views/${made.id}`)
}

async function rename(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  kept.value = await call('PATCH /views/{id}', {
    params: { id },
    body: given,
    match: saved().version,
  })
  renaming.value = false
}

async function discard(): Promise<void> {
  if (
    await notes.attempt(async () => {
      await call('DELETE /views/{id}', { params: { id }, match: saved().version })
    })
  )
    await router.push('/views')
}

function showFinished(): void {
  const { board } = arrangedAs()
  if (board) board.finishedWithin = null
}

function putBack(): void {
  content.value = copyOf(saved().content)
}

const query = computed(() => queries.value.find((entry) => entry.id === content.value?.query))
const segments = computed(() => {
  if (!arranged.value) return []
  const { filter } = arranged.value
  const groups = 'groups' in arranged.value ? arranged.value.groups : null
  const by = content.value?.group ? vocabulary.property(content.value.group) : undefined
  if (!groups || !by) return [{ key: 'all', filter }]
  return groups.map((group) => ({
    key: group.value ?? 'none',
    title: group.shown?.title ?? `no ${by.title.toLowerCase()}`,
    count: group.count,
    filter: cellFilter(filter, by, group.value),
  }))
})
</script>

<template>
  <section v-if="missing" class="sheet">
    <h1>View</h1>
    <p class="blank">{{ missing }} <RouterLink to="/views">All views</RouterLink></p>
  </section>
  <section v-else-if="content" class="sheet fixed">
    <div class="row top">
      <div class="grow">
        <h1>{{ kept?.title ?? 'A new view' }}</h1>
        <p class="meta">
          the answers of
          <RouterLink :to="`/queries/${content.query}`">{{ query?.title ?? '…' }}</RouterLink> ·
          {{
            content.board
              ? `columns by ${vocabulary.title(content.board.by).toLowerCase()}`
              : content.group
                ? `grouped by ${vocabulary.title(content.group).toLowerCase()}`
                : 'as one list'
          }}<template v-if="content.order[0]"
            >, ordered by {{ vocabulary.title(content.order[0].by).toLowerCase() }}</template
          ><b v-if="changed" class="warn"> · not kept yet</b>
        </p>
      </div>
      <div class="acts">
        <Button severity="secondary" v-if="changed" @click="putBack" label="Put back" />
        <Button
          severity="secondary"
          v-if="kept?.mayEdit && !changed"
          @click="renaming = true"
          label="Rename, share"
        />
        <Button
          severity="secondary"
          v-if="kept?.mayEdit && !changed"
          @click="discard"
          label="Delete"
        />
        <ExportMenu
          v-if="arranged && !content.board"
          :filter="arranged.filter"
          :columns="content.columns"
          :order="content.order"
          :name="kept?.title ?? 'answers'"
        />
        <Button
          severity="secondary"
          :aria-expanded="arranging"
          @click="arranging = !arranging"
          label="Arrange"
        />
        <Button
          severity="secondary"
          v-if="changed && session.mayEdit"
          @click="keeping = true"
          label="Keep as new"
        />
        <Button v-if="session.mayEdit && (changed || !kept)" @click="keep" label="Keep" />
        <Button
          v-if="session.mayEdit && arranged && !content.board"
          severity="secondary"
          aria-keyshortcuts="m"
          label="New here"
          @click="making = true"
        />
      </div>
    </div>
    <Arrange v-if="arranging" v-model="content" :queries="queries" />
    <ShownCount
      v-if="arranged"
      :arranged="arranged"
      :content="content"
      :total="answers?.total ?? arranged.total"
      @show-finished="showFinished"
    />
    <Board
      v-if="content.board && asBoard"
      :content="content"
      :arranged="asBoard"
      :may-edit="session.mayEdit"
      @moved="arrange"
    />
    <div v-else-if="arranged" class="list">
      <MakeHere
        v-if="session.mayEdit"
        v-model="making"
        :filter="arranged.filter"
        place="this view"
        @made="table?.refresh()"
      />
      <ItemTable
        ref="table"
        v-bind="session.mayEdit ? { chosen } : {}"
        :label="kept?.title ?? 'Answers'"
        :segments="segments"
        :columns="content.columns"
        :order="content.order"
        @answered="answers = $event"
        @sort="content.order = $event"
        @select="selected = $event"
        @update:chosen="chosen = $event ?? noneChosen"
      />
      <ManyBar
        v-if="session.mayEdit"
        v-model:chosen="chosen"
        :filter="arranged.filter"
        :total="answers?.total ?? arranged.total"
        @done="table?.refresh()"
      />
    </div>
    <KeepAs
      v-if="renaming && kept"
      what="view"
      :title="kept.title"
      :description="kept.description"
      :shared="kept.shared"
      :keep="rename"
      @close="renaming = false"
    />
    <KeepAs
      v-if="keeping"
      what="view"
      title=""
      description=""
      :shared="kept?.shared ?? 'me'"
      :keep="keepAs"
      @close="keeping = false"
    />
  </section>
  <ItemMargin v-if="content && !content.board" :item-ref="selected?.ref" />
</template>

<style scoped>
.top {
  align-items: flex-start;
}
.list {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
</style>
