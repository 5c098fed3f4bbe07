<script setup lang="ts">
import type { ProjectAnswer } from '@bluestem/core/projects'
import Button from 'primevue/button'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { inOrder, ladderOf } from '@bluestem/core/definitions'
import Choice from '../../parts/Choice.vue'
import Ledger from '../../parts/Ledger.vue'
import Margin from '../../parts/Margin.vue'
import { counted } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import { useSelected } from '../chapter/selected.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import RulebookForm from '../rulebooks/RulebookForm.vue'
import ProjectForm from './ProjectForm.vue'

/** The projects: what each follows, which hours it works, who may see it and who keeps it. */
const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const makes = useRoute().query['make'] !== undefined && definitions.mayDefineAll
const editing = ref<ProjectAnswer | 'new' | undefined>(makes ? 'new' : undefined)
const leaving = ref<string>()
const wanted = ref('')
const shown = computed(() =>
  living.projects.filter((project) =>
    `${project.title} ${project.code}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const chosen = computed(
  () => living.projects.find((project) => project.id === selected.value) ?? shown.value[0],
)
const rulebooks = computed(() => inOrder(definitions.document.rulebooks))
const follows = (entry: ProjectAnswer): string => definitions.document.projects[entry.id] ?? ''
const ladder = (entry: ProjectAnswer): string =>
  definitions.document.ladders[ladderOf(definitions.document, follows(entry)) ?? '']?.title ??
  'none'
const calendar = (entry: ProjectAnswer): string =>
  living.calendars.find((each) => (entry.calendar ? each.id === entry.calendar : each.standard))
    ?.title ?? ''
const follow = async (id: string, rulebook: string): Promise<boolean> =>
  await definitions.edit([{ path: ['projects', id], after: rulebook }])
const kept = (id: string): void => {
  selected.value = id
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="Where work stands. Each follows one *rulebook*, which says its types, flows and fields."
      guide="setting-up"
      title="Projects"
      make="New project"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
      ><span>{{ counted(shown.length, 'project') }}</span
      ><InputText
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the projects"
        placeholder="Narrow the projects"
        size="small"
    /></ChapterHead>
    <Ledger
      v-if="shown.length"
      :rows="shown"
      label="Projects"
      :selected="chosen?.id"
      :mark="(row) => ({ 'in-draft': definitions.isChanged('projects', row.id) })"
      @update:selected="selected = $event"
      @open="(row) => definitions.mayDefineAll && (editing = row)"
      ><Column header="Code" sortable sort-field="code" class="code"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ entry.code }}</span></template
        ></Column
      >
      <Column header="Project" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: entry }">{{ entry.title }}</template></Column
      >
      <Column header="Follows"
        ><template #body="{ data: entry }"
          ><Choice
            :model-value="follows(entry)"
            class="inline"
            :disabled="!definitions.mayDefineAll"
            :label="`Rulebook of ${entry.title}`"
            :options="rulebooks.map((book) => ({ id: book.id, title: book.title }))"
            inline
            @update:model-value="follow(entry.id, $event)" /></template
      ></Column>
      <Column header="Ladder"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ ladder(entry) }}</span></template
        ></Column
      >
      <Column header="Calendar" class="nowrap"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ calendar(entry) }}</span></template
        ></Column
      >
      <Column header="Seen by" class="nowrap"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{
            entry.open ? 'everybody' : counted(entry.members.length, 'member')
          }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else class="blank">
      {{
        wanted
          ? 'No project is called like that.'
          : 'Here the projects would stand. A project follows a rulebook, so define or take over one first.'
      }}
    </p>
    <ProjectForm
      v-if="editing"
      v-bind="editing === 'new' ? {} : { project: editing }"
      @kept="kept"
      @close="editing = undefined"
    />
    <RulebookForm
      v-if="leaving"
      id="new"
      :project="leaving"
      @close="leaving = undefined"
      @kept="definitions.rulebook = $event"
    />
  </section>
  <Margin v-if="chosen">
    <h2>{{ chosen.title }}</h2>
    <div class="quiet">
      <span class="code">{{ chosen.code }}</span> · {{ chosen.description || 'not described yet' }}
    </div>
    <p>
      <RouterLink :to="`/work/${chosen.code}`">Its items</RouterLink>
    </p>
    <h3>Who may see it</h3>
    <p class="quiet">
      {{
        chosen.open
          ? 'Everybody.'
          : `${living.namesOf(chosen.members) || 'Nobody yet'}; and administrators.`
      }}
    </p>
    <h3>Who keeps it</h3>
    <p class="quiet">{{ living.namesOf(chosen.keepers) || 'nobody yet' }}</p>
    <h3>What another rulebook would touch</h3>
    <p class="quiet">
      {{
        counted(
          chosen.phases.reduce((sum, one) => sum + one, 0),
          'item',
        )
      }}. The change waits in a draft, where it is told what becomes of each.
    </p>
    <div v-if="definitions.mayDefineAll" class="acts below">
      <Button severity="secondary" label="Change" @click="editing = chosen" /><Button
        severity="secondary"
        label="A rulebook of its own"
        :aria-label="`A rulebook of its own for ${chosen.title}`"
        @click="leaving = chosen.id"
      />
    </div>
  </Margin>
</template>

<style scoped>
.below {
  margin-top: 14px;
}
</style>
