<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { inOrder, ladderOf, ownKeys, restingRulebooks, unitOf } from '@bluestem/core/definitions'
import { counted, firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import DefinitionsFile from '../editions/DefinitionsFile.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import RulebookEntries from './RulebookEntries.vue'
import RulebookForm from './RulebookForm.vue'
import RulebookKeepers from './RulebookKeepers.vue'
import RulebooksCompared from './RulebooksCompared.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const found = useSelected()
watch(
  found,
  (id) => {
    if (id && definitions.document.rulebooks[id]) definitions.rulebook = id
  },
  { immediate: true },
)
const shows = ref<'entries' | 'compare'>('entries')
const editing = ref<string>()
const importing = ref(false)

/** the rulebooks as a tree: each stands below the one it extends */
const tree = computed(() => {
  const all = inOrder(definitions.document.rulebooks)
  const below = (
    parent: string | null,
    depth: number,
  ): { id: string; title: string; description: string; depth: number; retired?: boolean }[] =>
    all
      .filter((entry) => (entry.extends ?? null) === parent && depth < 20)
      .flatMap((entry) => [{ ...entry, depth }, ...below(entry.id, depth + 1)])
  return below(null, 0)
})
const chosen = computed(() => definitions.document.rulebooks[definitions.rulebook])
const followers = (id: string): string[] =>
  Object.entries(definitions.document.projects)
    .filter(([, follows]) => follows === id)
    .map(([entry]) => living.projectTitle.get(entry) ?? entry)
const ladder = (id: string): string =>
  definitions.document.ladders[ladderOf(definitions.document, id) ?? '']?.title ?? 'none'
const reached = computed(() =>
  restingRulebooks(definitions.document, definitions.rulebook).flatMap(followers),
)
</script>

<template>
  <section class="sheet fixed">
    <ChapterHead
      about="What projects follow, each with its *keepers|keeper*. One that extends another holds only what it adds, changes or leaves out."
      title="Rulebooks"
      make="New rulebook"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
      ><template #acts
        ><Button
          severity="secondary"
          v-if="definitions.mayDraft"
          @click="importing = true"
          label="From a file" /></template
    ></ChapterHead>
    <div class="books">
      <Ledger
        :rows="tree"
        label="Rulebooks"
        :selected="definitions.rulebook"
        :mark="
          (row) => ({
            'in-draft': definitions.isChanged('rulebooks', row.id),
            retired: row.retired,
          })
        "
        @update:selected="definitions.rulebook = $event"
        @open="(row) => definitions.mayDefineAll && (editing = row.id)"
        ><Column header="Rulebook" class="nowrap"
          ><template #body="{ data: entry }"
            ><span :style="{ paddingLeft: `${entry.depth * 20}px` }"
              ><span v-if="entry.depth" class="quiet" aria-hidden="true">└ </span>{{ entry.title
              }}<span v-if="definitions.isChanged('rulebooks', entry.id)" class="draft-mark"
                >in the draft</span
              ></span
            ></template
          ></Column
        >
        <Column header="Whom it is for"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ entry.description }}</span></template
          ></Column
        >
        <Column header="Ladder" class="nowrap"
          ><template #body="{ data: entry }">{{ ladder(entry.id) }}</template></Column
        >
        <Column header="Estimates in"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ unitOf(definitions.document, entry.id) }}</span></template
          ></Column
        >
        <Column header="Followed by"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ firstOf(followers(entry.id), 4) || '–' }}</span></template
          ></Column
        >
        <Column header="Its own words" class="num"
          ><template #body="{ data: entry }">{{
            ownKeys(definitions.document, entry.id).length
          }}</template></Column
        ></Ledger
      >
    </div>
    <Tabs v-model:value="shows">
      <TabList>
        <Tab value="entries">Entries of {{ chosen?.title }}</Tab>
        <Tab v-if="tree.length > 1" value="compare">Beside another</Tab>
      </TabList>
    </Tabs>
    <RulebookEntries v-if="shows === 'entries' && chosen" :rulebook="definitions.rulebook" />
    <RulebooksCompared v-else-if="shows === 'compare'" :first="definitions.rulebook" />
    <RulebookForm
      v-if="editing"
      :id="editing"
      @close="editing = undefined"
      @kept="definitions.rulebook = $event"
    />
    <DefinitionsFile v-if="importing" @close="importing = false" />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="definitions.rulebook"
    :title="chosen.title"
    :sub="
      chosen.extends
        ? `extends ${definitions.document.rulebooks[chosen.extends]?.title}`
        : 'stands alone'
    "
    :description="chosen.description"
    :countable="false"
    :touches="
      reached.length
        ? `What it says reaches ${firstOf(reached, 8)}.`
        : 'No project follows it or one that extends it.'
    "
  >
    <h3>What it is</h3>
    <div class="line">
      <span>ladder</span><span>{{ ladder(definitions.rulebook) }}</span>
    </div>
    <div class="line">
      <span>estimates in</span><span>{{ unitOf(definitions.document, definitions.rulebook) }}</span>
    </div>
    <div class="line">
      <span>followed by</span
      ><span>{{ counted(followers(definitions.rulebook).length, 'project') }}</span>
    </div>
    <RulebookKeepers :rulebook="definitions.rulebook" />
    <template #acts
      ><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="editing = definitions.rulebook"
        label="Change" /><Button
        as="a"
        severity="secondary"
        v-if="definitions.published.rulebooks[definitions.rulebook]"
        :href="`/api/v1/definitions/rulebooks/${definitions.rulebook}`"
        :download="`${chosen.title}.json`"
        label="Export as a file" /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('rulebooks', definitions.rulebook, !chosen.retired)"
        :label="chosen.retired ? 'Bring back' : 'Retire'"
    /></template>
  </EntryMargin>
</template>

<style scoped>
.books {
  max-height: 34vh;
  overflow: auto;
  flex: none;
  margin-bottom: 10px;
}
</style>
