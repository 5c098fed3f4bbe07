<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import AsOf from '../parts/AsOf.vue'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { ItemAnswer, ItemsAnswer, SavedQuery } from '@bluestem/core/queries'
import { ApiProblem, call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import ColumnChoice from '../parts/ColumnChoice.vue'
import ExportMenu from '../exchange/ExportMenu.vue'
import ItemTable from '../parts/ItemTable.vue'
import type { SortBy } from '../parts/segments.ts'
import KeepAs from '../parts/KeepAs.vue'
import { useNotes } from '../parts/notes.store.ts'
import { numberWords } from '../parts/words.ts'
import { noneChosen } from '../parts/chosen.ts'
import ItemMargin from '../work/ItemMargin.vue'
import MakeHere from '../work/MakeHere.vue'
import ManyBar from '../work/ManyBar.vue'
import AnswerCount from './AnswerCount.vue'
import QueryHead from './QueryHead.vue'
import QuerySentence from './QuerySentence.vue'
import QueryText from './QueryText.vue'
import { filterCameFor } from './itemsBehind.ts'
import { useWrittenQuery } from './useWrittenQuery.ts'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const id = String(route.params['id'])
const kept = ref<SavedQuery>()
const saved = (): SavedQuery => certain(kept.value, 'query that is shown')
const missing = ref('')
const cameFor = id === 'new' ? filterCameFor(route.query) : undefined
const formsOfQuery = ['Sentence', 'Text', 'JSON'] as const
const tab = ref<'Sentence' | 'Text' | 'JSON'>(
  id === 'new' && cameFor === undefined ? 'Text' : 'Sentence',
)
const written = useWrittenQuery()
const { text, filter, json, sentence, errors } = written
const columns = ref<string[]>(['ref', 'type', 'title', 'status', 'priority', 'assignee', 'due'])
const order = ref<SortBy[]>([{ by: 'changed', direction: 'down' }])
const answers = ref<ItemsAnswer>()
const selected = ref<ItemAnswer>()
const chosen = ref(noneChosen)
const keeping = ref(false)
const making = ref(false)
const asOf = ref(typeof route.query['as-of'] === 'string' ? route.query['as-of'] : '')
const ready = ref(false)
/** the past is only looked at */
const mayChoose = computed(() => session.mayEdit && asOf.value === '')

/** The query as it was kept, against which changes are told. */
const keptState = computed(() =>
  kept.value
    ? JSON.stringify([
        kept.value.content.filter,
        kept.value.content.columns,
        kept.value.content.order,
      ])
    : '',
)
const changed = computed(
  () =>
    kept.value !== undefined &&
    JSON.stringify([filter.value, columns.value, order.value]) !== keptState.value,
)

function take(query: SavedQuery): void {
  kept.value = query
  written.take({ ...query, filter: query.content.filter })
  columns.value = [...query.content.columns]
  order.value = [...query.content.order]
}

onMounted(async () => {
  try {
    if (id !== 'new') take(await call('GET /queries/{id}', { params: { id } }))
    else if (cameFor === undefined) written.read('')
    else await written.takeKept(JSON.parse(cameFor))
    ready.value = true
  } catch (error) {
    missing.value =
      error instanceof ApiProblem ? error.message : 'This address does not hold a query.'
  }
})

const table = ref<InstanceType<typeof ItemTable>>()
// What others change shows here; the past stays as it was.
whenChanged(() => {
  if (!asOf.value) table.value?.refresh()
})

const content = computed(() => ({
  filter: filter.value,
  columns: columns.value,
  order: order.value,
}))

async function keep(): Promise<void> {
  if (!kept.value?.mayEdit) return void (keeping.value = true)
  await notes.attempt(async () => {
    const body = await call('PATCH /queries/{id}', {
      params: { id },
      body: { content: content.value },
      match: saved().version,
    })
    take(body)
    notes.show('well', 'Kept.')
  })
}

async function share(): Promise<void> {
  await notes.attempt(async () => {
    const body = await call('PATCH /queries/{id}', {
      params: { id },
      body: { shared: saved().shared === 'me' ? 'everyone' : 'me' },
      match: saved().version,
    })
    kept.value = { ...saved(), shared: body.shared, version: body.version }
  })
}

async function keepAs(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  const renaming = kept.value?.mayEdit && !changed.value && renamed.value
  const made = renaming
    ? await call('PATCH /queries/{id}', { params: { id }, body: given, match: saved().version })
    : await call('POST /queries', { body: { ...given, content: content.value } })
  keeping.value = false
  renamed.value = false
  if (renaming) take(made)
  else await router.push(`/queries/${made.id}`)
}
const renamed = ref(false)

const unknown = computed(() => answers.value?.cannotTell ?? 0)
const segments = computed(() => [{ key: 'all', filter: filter.value }])

async function discard(): Promise<void> {
  if (
    await notes.attempt(async () => {
      await call('DELETE /queries/{id}', { params: { id }, match: saved().version })
    })
  )
    await router.push('/queries')
}

function openRename(): void {
  renamed.value = true
  keeping.value = true
}

function closeKeep(): void {
  keeping.value = false
  renamed.value = false
}
</script>

<template>
  <section v-if="missing" class="sheet">
    <h1>Query</h1>
    <p class="blank">{{ missing }} <RouterLink to="/queries">All queries</RouterLink></p>
  </section>
  <section v-else-if="ready" class="sheet fixed">
    <QueryHead
      :kept="kept"
      :title="cameFor === undefined ? 'A new question' : 'The items behind the figure'"
      :changed="changed"
      :sound="errors.length === 0"
      @put-back="take(saved())"
      @share="share"
      @rename="openRename"
      @discard="discard"
      @keep-as-new="keeping = true"
      @keep="keep"
    />
    <div class="row tabs">
      <Tabs v-model:value="tab" class="forms">
        <TabList aria-label="Forms of the query">
          <Tab v-for="entry in formsOfQuery" :key="entry" :value="entry">{{ entry }}</Tab>
        </TabList>
      </Tabs>
      <span class="grow" />
      <AsOf v-model="asOf" />
    </div>
    <div class="form" role="tabpanel" :aria-label="tab">
      <QuerySentence v-if="tab === 'Sentence'" :lines="sentence" @edit="tab = 'Text'" />
      <QueryText v-else-if="tab === 'Text'" v-model="text" :errors="errors" />
      <pre v-else class="code" tabindex="0">{{ JSON.stringify(json, null, 2) }}</pre>
      <ul v-if="errors.length" class="told" role="alert">
        <li v-for="error in errors" :key="`${error.from} ${error.message}`">
          {{ error.message }}
          <Button
            variant="link"
            v-if="error.nearest && tab === 'Text'"
            @click="text = text.slice(0, error.from) + error.nearest + text.slice(error.to)"
            :label="`write ${error.nearest}`"
          />
        </li>
      </ul>
    </div>
    <div class="row count">
      <AnswerCount :answers="answers" :filter="filter" :sound="errors.length === 0" />
      <Button
        v-if="mayChoose"
        variant="link"
        aria-keyshortcuts="m"
        label="new here"
        @click="making = true"
      />
      <ColumnChoice v-model="columns" />
      <ExportMenu
        :filter="filter"
        :columns="columns"
        :order="order"
        :name="kept?.title ?? 'answers'"
        :as-of="asOf"
      />
    </div>
    <MakeHere
      v-if="mayChoose"
      v-model="making"
      :filter="filter"
      place="this question"
      @made="table?.refresh()"
    />
    <ItemTable
      ref="table"
      v-bind="mayChoose ? { chosen } : {}"
      label="Answers"
      :segments="segments"
      :columns="columns"
      :order="order"
      :as-of="asOf"
      @answered="answers = $event"
      @sort="order = $event"
      @select="selected = $event"
      @update:chosen="chosen = $event ?? noneChosen"
    >
      <template #empty
        ><p class="blank">
          Nothing answers this.<template v-if="unknown">
            {{ numberWords(unknown) }} items can’t be told, because something asked about is
            empty.</template
          >
        </p></template
      >
    </ItemTable>
    <ManyBar
      v-if="mayChoose"
      v-model:chosen="chosen"
      :filter="filter"
      :total="answers?.total ?? 0"
      @done="table?.refresh()"
    />
    <KeepAs
      v-if="keeping"
      what="query"
      :title="kept && renamed ? kept.title : ''"
      :description="kept?.description ?? ''"
      :shared="kept?.shared ?? 'me'"
      :keep="keepAs"
      @close="closeKeep"
    />
  </section>
  <ItemMargin :item-ref="selected?.ref" />
</template>

<style scoped>
.tabs {
  align-items: flex-end;
  border-bottom: 1px solid var(--hair);
}
.tabs :deep(.p-tablist-tab-list) {
  border: 0;
}
.form {
  padding: 8px 0 2px;
  flex: none;
  max-height: 42%;
  overflow: auto;
}
.form pre {
  margin: 0;
  max-height: 220px;
  overflow: auto;
}
.form ul {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
.count {
  padding: 6px 0 4px;
}
</style>
