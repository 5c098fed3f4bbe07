<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { inOrder, ladderOf, ownKeys, restingRulebooks, unitOf } from '@bluestem/core/definitions'
import type { CountedProject } from '../../api/types.ts'
import { counted, firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import DefinitionsFile from '../editions/DefinitionsFile.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import ProjectForm from '../projects/ProjectForm.vue'
import RulebookEntries from './RulebookEntries.vue'
import RulebookForm from './RulebookForm.vue'
import RulebookKeepers from './RulebookKeepers.vue'
import RulebooksCompared from './RulebooksCompared.vue'
import { useDefinitions } from '../definitions.store.ts'
import { useLiving } from '../living.store.ts'
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
const shows = ref<'entries' | 'compare' | 'projects'>('entries')
const editing = ref<string>()
const leaving = ref<string>()
const project = ref<CountedProject | 'new' | undefined>(
  useRoute().query['project'] === 'new' && definitions.mayDefineAll ? 'new' : undefined,
)
const importing = ref(false)
const wanted = ref('')

/** the rulebooks as a tree: each stands below the one it extends */
const tree = computed(() => {
  const all = inOrder(definitions.document.rulebooks)
  const below = (
    parent: string | null,
    depth: number,
  ): { id: string; title: string; description: string; depth: number; retired?: boolean }[] =>
    all
      .filter((one) => (one.extends ?? null) === parent && depth < 20)
      .flatMap((one) => [{ ...one, depth }, ...below(one.id, depth + 1)])
  return below(null, 0)
})
const chosen = computed(() => definitions.document.rulebooks[definitions.rulebook])
const followers = (id: string): string[] =>
  Object.entries(definitions.document.projects)
    .filter(([, follows]) => follows === id)
    .map(([one]) => living.projectTitle.get(one) ?? one)
const ladder = (id: string): string =>
  definitions.document.ladders[ladderOf(definitions.document, id) ?? '']?.title ?? 'none'
const reached = computed(() =>
  restingRulebooks(definitions.document, definitions.rulebook).flatMap(followers),
)
const projects = computed(() =>
  living.projects.filter((one) =>
    `${one.title} ${one.code}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const follow = async (id: string, rulebook: string): Promise<boolean> =>
  await definitions.edit([{ path: ['projects', id], after: rulebook }])
const retire = async (id: string, retired: boolean): Promise<boolean> =>
  await definitions.edit([
    { path: ['rulebooks', id, 'retired'], ...(retired ? { after: true } : {}) },
  ])
</script>

<template>
  <section class="sheet fixed">
    <ChapterHead
      about="What projects follow. One that extends another holds only what it adds, changes or leaves out."
      title="Rulebooks"
      :make="shows === 'projects' ? 'New project' : 'New rulebook'"
      :may="definitions.mayDefineAll"
      @make="shows === 'projects' ? (project = 'new') : (editing = 'new')"
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
          (one) => ({
            'in-draft': definitions.isChanged('rulebooks', one.id),
            retired: one.retired,
          })
        "
        @update:selected="definitions.rulebook = $event!"
        @open="(one) => definitions.mayDefineAll && (editing = one.id)"
        ><Column header="Rulebook" class="nowrap"
          ><template #body="{ data: one }"
            ><span :style="{ paddingLeft: `${one.depth * 20}px` }"
              ><span v-if="one.depth" class="quiet" aria-hidden="true">└ </span>{{ one.title
              }}<span v-if="definitions.isChanged('rulebooks', one.id)" class="draft-mark"
                >in the draft</span
              ></span
            ></template
          ></Column
        >
        <Column header="Whom it is for"
          ><template #body="{ data: one }"
            ><span class="quiet">{{ one.description }}</span></template
          ></Column
        >
        <Column header="Ladder" class="nowrap"
          ><template #body="{ data: one }">{{ ladder(one.id) }}</template></Column
        >
        <Column header="Estimates in"
          ><template #body="{ data: one }"
            ><span class="quiet">{{ unitOf(definitions.document, one.id) }}</span></template
          ></Column
        >
        <Column header="Followed by"
          ><template #body="{ data: one }"
            ><span class="quiet">{{ firstOf(followers(one.id), 4) || '–' }}</span></template
          ></Column
        >
        <Column header="Its own words" class="num"
          ><template #body="{ data: one }">{{
            ownKeys(definitions.document, one.id).length
          }}</template></Column
        ></Ledger
      >
    </div>
    <Tabs v-model:value="shows">
      <TabList>
        <Tab value="entries">Entries of {{ chosen?.title }}</Tab>
        <Tab v-if="tree.length > 1" value="compare">Beside another</Tab>
        <Tab value="projects">Projects</Tab>
      </TabList>
    </Tabs>
    <RulebookEntries v-if="shows === 'entries' && chosen" :rulebook="definitions.rulebook" />
    <RulebooksCompared v-else-if="shows === 'compare'" :first="definitions.rulebook" />
    <div v-else class="projects">
      <div class="row meta">
        <span>{{ counted(projects.length, 'project') }}</span><InputText
          v-model="wanted"
          class="narrow"
          type="search"
          aria-label="Narrow the projects"
          placeholder="Narrow the projects"
          size="small"
        />
      </div>
      <DataTable
        :value="[...projects]"
        data-key="id"
        table-class="ledger"
        :row-class="(one) => ({ 'in-draft': definitions.isChanged('projects', one.id) })"
        :table-props="{ 'aria-label': 'Projects' }"
        ><Column header="Code" class="code"
          ><template #body="{ data: one }"
            ><span class="quiet">{{ one.code }}</span></template
          ></Column
        >
        <Column header="Project" class="nowrap"
          ><template #body="{ data: one }">{{ one.title }}</template></Column
        >
        <Column header="Follows"
          ><template #body="{ data: one }"
            ><Choice
              :model-value="definitions.document.projects[one.id] ?? ''"
              class="inline"
              :disabled="!definitions.mayDefineAll"
              :label="`Rulebook of ${one.title}`"
              :options="tree.map((book) => ({ id: book.id, title: book.title }))"
              inline
              @update:model-value="follow(one.id, $event)" /></template
        ></Column>
        <Column header="Ladder"
          ><template #body="{ data: one }"
            ><span class="quiet">{{
              ladder(definitions.document.projects[one.id] ?? '')
            }}</span></template
          ></Column
        >
        <Column header="Calendar" class="nowrap"
          ><template #body="{ data: one }"
            ><span class="quiet">{{
              living.calendars.find((each) =>
                one.calendar ? each.id === one.calendar : each.standard,
              )?.title
            }}</span></template
          ></Column
        >
        <Column class="num nowrap"
          ><template #header><span class="seen-not">Acts</span></template
          ><template #body="{ data: one }"
            ><template v-if="definitions.mayDefineAll"
              ><Button
                variant="link"
                :aria-label="`A rulebook of its own for ${one.title}`"
                @click="leaving = one.id"
                label="its own …" />
              ·
              <Button
                variant="link"
                :aria-label="`Change ${one.title}`"
                @click="project = one"
                label="change" /></template></template></Column
      ></DataTable>
    </div>
    <RulebookForm
      v-if="editing"
      :id="editing"
      @close="editing = undefined"
      @kept="definitions.rulebook = $event"
    />
    <RulebookForm
      v-if="leaving"
      id="new"
      :project="leaving"
      @close="leaving = undefined"
      @kept="definitions.rulebook = $event"
    />
    <ProjectForm
      v-if="project"
      v-bind="project === 'new' ? {} : { project }"
      @close="project = undefined"
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
        label="Take out as a file" /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="retire(definitions.rulebook, !chosen.retired)"
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
.projects {
  flex: 1;
  min-height: 120px;
  overflow: auto;
}
</style>
