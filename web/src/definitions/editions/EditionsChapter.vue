<script setup lang="ts">
import type { EditionAnswer } from '@bluestem/core/definitions'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { useRoute } from 'vue-router'
import { computed, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import Margin from '../../parts/Margin.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { counted, dayWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import DefinitionsFile from './DefinitionsFile.vue'
import DroppedDrafts from './DroppedDrafts.vue'
import { useDefinitions } from '../store/definitions.store.ts'

interface Told {
  readonly words: string
  readonly before: unknown
  readonly after: unknown
}

const definitions = useDefinitions()
const session = useSession()
const notes = useNotes()
const editions = ref<readonly EditionAnswer[]>([])
const selected = ref<EditionAnswer>()
const route = useRoute()
const [from, to] = [ref(0), ref(0)]
const compared = ref<readonly Told[]>()
const importing = ref(false)
const wanted = ref('')
const shown = computed(() =>
  editions.value.filter((edition) =>
    `${edition.note} ${edition.by ?? ''} ${edition.changes.join(' ')}`
      .toLowerCase()
      .includes(wanted.value.toLowerCase()),
  ),
)
watch(
  () => definitions.edition?.number,
  async () => {
    editions.value = (await call('GET /definitions/editions')).editions
    selected.value =
      editions.value.find((edition) => String(edition.number) === route.query['id']) ??
      editions.value[0]
    to.value = editions.value[0]?.number ?? 0
    from.value = editions.value[1]?.number ?? to.value
  },
  { immediate: true },
)

async function compare(): Promise<void> {
  await notes.attempt(async () => {
    compared.value = (
      await call('GET /definitions/editions/{number}/compare/{to}', {
        params: { number: from.value, to: to.value },
      })
    ).changes
  })
}
watch([from, to], () => {
  compared.value = undefined
})
async function goBack(number: number): Promise<void> {
  if (await definitions.goBack(number))
    notes.show(
      'well',
      `A draft leads back to edition ${number}; nothing is changed until it is published.`,
    )
}
const selectedRow = computed(() => String(selected.value?.number))
function selectRow(id: string): void {
  selected.value = shown.value.find((entry) => String(entry.number) === id)
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="Every *edition* there has been; the first line is in force. A draft tells its *impact* and its *replay* before it becomes one."
      title="Editions"
      :may="false"
      ><InputText
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the editions"
        placeholder="Search the changes"
        size="small" />
      <template #acts
        ><Button
          as="a"
          severity="secondary"
          href="/api/v1/definitions/file"
          download="definitions.json"
          label="Take all out as a file" /><Button
          severity="secondary"
          v-if="definitions.mayDraft"
          @click="importing = true"
          label="From a file" /></template
    ></ChapterHead>
    <Ledger
      :rows="shown"
      by="number"
      label="Editions"
      :selected="selectedRow"
      @update:selected="selectRow($event)"
      ><Column header="Edition" class="num"
        ><template #body="{ data: edition }"
          ><b>{{ edition.number }}</b></template
        ></Column
      >
      <Column header="Published" class="nowrap"
        ><template #body="{ data: edition }"
          ><span class="quiet">{{ dayWords(edition.published_at, session.now) }}</span></template
        ></Column
      >
      <Column header="By" class="nowrap"
        ><template #body="{ data: edition }">{{ edition.by ?? '–' }}</template></Column
      >
      <Column header="Why"
        ><template #body="{ data: edition }">{{ edition.note }}</template></Column
      >
      <Column header="Changes" class="num"
        ><template #body="{ data: edition }">{{ edition.changes.length }}</template></Column
      ></Ledger
    >
    <DroppedDrafts v-if="definitions.mayDraft" />
    <template v-if="editions.length > 1">
      <form class="row wrap compare" @submit.prevent="compare">
        <h2>Compare</h2>
        <span>edition</span
        ><Choice
          v-model="from"
          label="From edition"
          :options="editions.map((row) => row.number)"
          inline
        /><span>with</span
        ><Choice
          v-model="to"
          label="To edition"
          :options="editions.map((row) => row.number)"
          inline
        /><Button
          severity="secondary"
          type="submit"
          :disabled="from === to"
          label="Tell the differences"
        />
      </form>
      <template v-if="compared"
        ><p class="meta">
          {{
            compared.length
              ? `From edition ${from} to ${to}: ${counted(compared.length, 'change')}`
              : 'They say the same.'
          }}
        </p>
        <ol class="words">
          <li v-for="(entry, index) in compared" :key="index">{{ entry.words }}</li>
        </ol></template
      >
    </template>
    <DefinitionsFile v-if="importing" @close="importing = false" />
  </section>
  <Margin>
    <template v-if="selected"
      ><h2>Edition {{ selected.number }}</h2>
      <div class="quiet">
        {{ dayWords(selected.published_at, session.now) }}, {{ selected.by ?? 'the beginning' }}
      </div>
      <p v-if="selected.note" class="why">“{{ selected.note }}”</p>
      <h3>What it changed</h3>
      <div v-for="(words, index) in selected.changes.slice(0, 60)" :key="index" class="line">
        <span>{{ words }}</span>
      </div>
      <p v-if="selected.changes.length > 60" class="quiet">
        and {{ selected.changes.length - 60 }} more
      </p>
      <div class="acts below">
        <Button
          severity="secondary"
          v-if="definitions.mayDraft && selected.number !== definitions.edition?.number"
          @click="goBack(selected.number)"
          label="Go back to it, in a draft"
        /></div
    ></template>
  </Margin>
</template>

<style scoped>
.compare {
  margin: 24px 0 6px;
  gap: 8px;
}
.compare h2 {
  margin-right: 6px;
}
.words {
  margin: 0;
  padding-left: 26px;
  font-size: 13.5px;
}
.why {
  margin-top: 8px;
  font: italic 15px/1.4 var(--serif);
}
.below {
  margin-top: 14px;
}
</style>
