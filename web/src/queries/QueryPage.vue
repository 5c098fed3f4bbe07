<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import AsOf from '../parts/AsOf.vue'
import Button from 'primevue/button'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  type Line,
  type QueryError,
  readQuery,
  type ItemsAnswer,
  type ItemAnswer,
  type SavedQuery,
} from '@bluestem/core/queries'
import { ApiProblem, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../app/session.store.ts'
import ColumnChoice from '../parts/ColumnChoice.vue'
import TakeOut from '../exchange/TakeOut.vue'
import ItemTable from '../parts/ItemTable.vue'
import type { SortBy } from '../parts/segments.ts'
import KeepAs from '../parts/KeepAs.vue'
import { useNotes } from '../parts/notes.store.ts'
import { agoWords, numberWords } from '../parts/words.ts'
import { noneChosen } from '../parts/chosen.ts'
import ItemMargin from '../work/ItemMargin.vue'
import MakeHere from '../work/MakeHere.vue'
import ManyBar from '../work/ManyBar.vue'
import QuerySentence from './QuerySentence.vue'
import QueryText from './QueryText.vue'
import { filterCameFor } from './itemsBehind.ts'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const vocabulary = useVocabulary()
const id = String(route.params['id'])
const kept = ref<SavedQuery>()
const saved = (): SavedQuery => certain(kept.value, 'query that is shown')
const missing = ref('')
const cameFor = id === 'new' ? filterCameFor(route.query) : undefined
const formsOfQuery = ['Sentence', 'Text', 'JSON'] as const
const tab = ref<'Sentence' | 'Text' | 'JSON'>(
  id === 'new' && cameFor === undefined ? 'Text' : 'Sentence',
)
const text = ref('')
const filter = ref<unknown>(true)
const json = ref<unknown>(true)
const sentence = ref<readonly Line[]>([])
const errors = ref<readonly QueryError[]>([])
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
  text.value = query.text
  filter.value = query.content.filter
  sentence.value = query.sentence
  errors.value = query.errors
  columns.value = [...query.content.columns]
  order.value = [...query.content.order]
}

onMounted(async () => {
  try {
    if (id !== 'new') take(await call('GET /queries/{id}', { params: { id } }))
    else if (cameFor === undefined) read('')
    else {
      const filter: unknown = JSON.parse(cameFor)
      await checkKept(filter)
    }
    ready.value = true
  } catch (error) {
    missing.value =
      error instanceof ApiProblem ? error.message : 'This address does not hold a query.'
  }
})

/** Takes a query that was kept by its identities, which the server reads: some of them this person may not know by name. */
async function checkKept(asked: unknown): Promise<void> {
  const checked = await call('POST /queries/check', { body: { filter: asked, kept: true } })
  errors.value = checked.errors
  if (!checked.ok) return
  filter.value = checked.kept
  json.value = checked.json
  sentence.value = checked.sentence
  text.value = checked.text
}

/**
 * Reads what was written, at once and here; nothing written asks for everything. A query with errors is never run and never emptied: the
 * answers stay those of the last sound one.
 */
function read(written: string): void {
  const outcome = readQuery(
    written.trim() === ''
      ? { lang: 'cql2-json', filter: true }
      : { lang: 'cql2-text', filter: written },
    vocabulary.names,
  )
  errors.value = outcome.ok ? [] : outcome.errors
  if (!outcome.ok) return
  json.value = outcome.value.json
  sentence.value = outcome.value.sentence
  askSoon(outcome.value.kept)
}

let timer = 0
/** Answers are asked for when the writing pauses. */
function askSoon(wanted: unknown): void {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => (filter.value = wanted), 250)
}
onBeforeUnmount(() => window.clearTimeout(timer))

const table = ref<InstanceType<typeof ItemTable>>()
// What others change shows here; the past stays as it was.
whenChanged(() => {
  if (!asOf.value) table.value?.refresh()
})

watch(text, (now, before) => {
  if (!ready.value || now === before) return
  window.clearTimeout(timer)
  read(now)
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
const emptyFields = computed(() =>
  vocabulary.columns
    .filter(
      (one) =>
        one.nullable && JSON.stringify(filter.value).includes(`{"property":"${one.handle}"}`),
    )
    .map((one) => one.title.toLowerCase()),
)
const asksForLimits = computed(() => JSON.stringify(filter.value).includes('"op":"limit_left"'))
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
    <div class="row top">
      <div class="grow">
        <h1>
          {{
            kept?.title ??
            (cameFor === undefined ? 'A new question' : 'The items behind the figure')
          }}
        </h1>
        <p class="meta">
          <template v-if="kept"
            >shared with {{ kept.shared === 'everyone' ? 'everyone' : 'nobody yet' }} · kept by
            {{ kept.owner.title }} · changed {{ agoWords(kept.changedAt, session.now)
            }}<template v-if="kept.description"> · {{ kept.description }}</template
            ><b v-if="changed" class="warn"> · not kept yet</b></template
          >
          <template v-else>not kept yet</template>
        </p>
      </div>
      <div class="acts">
        <Button severity="secondary" v-if="kept && changed" @click="take(kept)" label="Put back" />
        <Button
          severity="secondary"
          v-if="kept?.mayEdit && !changed"
          @click="share"
          :label="kept.shared === 'me' ? 'Share with everyone' : 'Only me'"
        />
        <Button
          severity="secondary"
          v-if="kept?.mayEdit && !changed"
          @click="openRename"
          label="Rename"
        />
        <Button
          severity="secondary"
          v-if="kept?.mayEdit && !changed"
          @click="discard"
          label="Delete"
        />
        <Button
          as="router-link"
          severity="secondary"
          v-if="kept && session.mayEdit && !changed"
          :to="`/views/new?query=${kept.id}`"
          label="Arrange"
        />
        <Button
          severity="secondary"
          v-if="kept && changed && session.mayEdit"
          :disabled="errors.length > 0"
          @click="keeping = true"
          label="Keep as new"
        />
        <Button
          v-if="session.mayEdit && (changed || !kept)"
          :disabled="errors.length > 0"
          @click="keep"
          label="Keep"
        />
      </div>
    </div>
    <div class="row tabs">
      <Tabs v-model:value="tab" class="forms">
        <TabList aria-label="Forms of the query">
          <Tab v-for="one in formsOfQuery" :key="one" :value="one">{{ one }}</Tab>
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
      <span class="grow" aria-live="polite"
        ><template v-if="answers"
          ><b class="big">{{ numberWords(answers.total) }}</b>
          {{ answers.total === 1 ? 'answer' : 'answers'
          }}<span v-if="errors.length" class="quiet unknown">
            · to the last question that could be read</span
          ><template v-else-if="unknown"
            ><span class="quiet unknown">
              · {{ numberWords(unknown) }} can’t be told:
              <template v-if="emptyFields.length"
                >they lack {{ emptyFields.slice(0, 3).join(' or ') }}</template
              ><template v-else-if="asksForLimits">no clock of that time limit runs</template
              ><template v-else>something is empty</template></span
            ></template
          ></template
        ></span
      >
      <Button
        v-if="mayChoose"
        variant="link"
        aria-keyshortcuts="m"
        label="new here"
        @click="making = true"
      />
      <ColumnChoice v-model="columns" />
      <TakeOut
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
.top {
  align-items: flex-start;
}
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
.big {
  font: 600 25px var(--serif);
}
.unknown {
  margin-left: 6px;
}
</style>
