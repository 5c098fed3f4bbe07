<script setup lang="ts">
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import Column from 'primevue/column'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { PersonAnswer } from '@bluestem/core/people'
import Ledger from '../../parts/Ledger.vue'
import Margin from '../../parts/Margin.vue'
import { counted, firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import { useSelected } from '../chapter/selected.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import AbsencesTable from './AbsencesTable.vue'
import DirectorySheet from './DirectorySheet.vue'
import HandOver from './HandOver.vue'
import InvitationSheet from './InvitationSheet.vue'
import PersonForm from './PersonForm.vue'
import TeamMargin from './TeamMargin.vue'
import TeamsTable from './TeamsTable.vue'

/** Who works here and what they may do, and the teams they are in. */
const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const makes = useRoute().query['make'] !== undefined && definitions.mayDefineAll
const editing = ref<PersonAnswer | 'new' | undefined>(makes ? 'new' : undefined)
const handingOver = ref(false)
const inviting = ref<PersonAnswer>()
const readsDirectory = ref(false)
const teamEdited = ref<TeamAnswer | 'new'>()
const wanted = ref('')
const shown = computed(() =>
  living.people.filter((person) =>
    `${person.name} ${person.email ?? ''}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const chosenTeam = computed(() => living.teams.find((team) => team.id === selected.value))
/** Whoever comes for a team finds the teams. */
const comesForAbsences = useRoute().query['away'] !== undefined
const shows = ref<'people' | 'teams' | 'away'>(
  comesForAbsences ? 'away' : chosenTeam.value ? 'teams' : 'people',
)
const team = computed(() => chosenTeam.value ?? living.teams[0])
const person = computed(
  () => living.people.find((person) => person.id === selected.value) ?? shown.value[0],
)
const make = (): void => {
  if (shows.value === 'teams') teamEdited.value = 'new'
  else editing.value = 'new'
}
const teamsOf = (id: string): readonly string[] =>
  living.teams.filter((team) => team.people.includes(id)).map((team) => team.title)
const projectsOf = (id: string, part: 'members' | 'keepers'): readonly string[] =>
  living.projects.filter((project) => project[part].includes(id)).map((project) => project.title)
</script>

<template>
  <section class="sheet">
    <ChapterHead
      living
      about="Who may look, work and define; and the teams, each with its *remit*, the items that are theirs."
      guide="setting-up"
      title="People and teams"
      :make="shows === 'teams' ? 'New team' : 'Add a person'"
      :may="definitions.mayDefineAll"
      @make="make"
    >
      <template v-if="shows === 'people' && definitions.mayDefineAll" #acts>
        <Button severity="secondary" label="From the directory …" @click="readsDirectory = true" />
      </template>
    </ChapterHead>
    <Tabs v-model:value="shows">
      <TabList>
        <Tab value="people">{{ counted(living.people.length, 'person', 'people') }}</Tab>
        <Tab value="teams">{{ counted(living.teams.length, 'team') }}</Tab>
        <Tab value="away">Who is away</Tab>
      </TabList>
    </Tabs>
    <TeamsTable v-if="shows === 'teams'" v-model="selected" v-model:editing="teamEdited" />
    <AbsencesTable v-else-if="shows === 'away'" />
    <template v-else
      ><InputText
        v-if="living.people.length > 12"
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the people"
        placeholder="Narrow the people"
        size="small"
      />
      <Ledger
        v-if="shown.length"
        :rows="shown"
        label="People"
        :selected="person?.id"
        :mark="(row) => ({ retired: !row.active })"
        @update:selected="selected = $event"
        @open="(row) => definitions.mayDefineAll && (editing = row)"
        ><Column header="Name" sortable sort-field="name" class="nowrap"
          ><template #body="{ data: entry }">{{ entry.name }}</template></Column
        >
        <Column v-if="definitions.mayDefineAll" header="Signs in by"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ entry.email }}</span></template
          ></Column
        >
        <Column header="Role" sortable sort-field="role"
          ><template #body="{ data: entry }"
            >{{ entry.active ? entry.role : 'may not sign in'
            }}<span v-if="entry.active && entry.hasPassword === false" class="quiet"
              >, not in yet</span
            ></template
          ></Column
        >
        <Column header="Teams"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ firstOf(teamsOf(entry.id), 3) || '–' }}</span></template
          ></Column
        ></Ledger
      >
      <p v-else class="blank">Nobody is called like that.</p></template
    >
    <PersonForm
      v-if="editing"
      v-bind="editing === 'new' ? {} : { person: editing }"
      @kept="(id) => (selected = id)"
      @close="editing = undefined"
    />
    <InvitationSheet v-if="inviting" :person="inviting" @close="inviting = undefined" />
    <DirectorySheet v-if="readsDirectory" @close="readsDirectory = false" />
    <HandOver v-if="handingOver && person" :person="person" @close="handingOver = false" />
  </section>
  <TeamMargin v-if="shows === 'teams' && team" :team="team" @change="teamEdited = team" />
  <Margin v-else-if="shows === 'people' && person">
    <h2>{{ person.name }}</h2>
    <div class="quiet">{{ person.active ? person.role : 'may not sign in any more' }}</div>
    <h3>Teams</h3>
    <p class="quiet">{{ teamsOf(person.id).join(', ') || 'none' }}</p>
    <h3>Keeps</h3>
    <p class="quiet">{{ projectsOf(person.id, 'keepers').join(', ') || 'no project' }}</p>
    <h3>Belongs to</h3>
    <p class="quiet">{{ projectsOf(person.id, 'members').join(', ') || 'no project' }}</p>
    <div v-if="definitions.mayDefineAll" class="acts below">
      <Button severity="secondary" label="Change" @click="editing = person" />
      <Button
        v-if="person.active"
        severity="secondary"
        label="Invite …"
        @click="inviting = person"
      />
      <Button severity="secondary" label="Hand over …" @click="handingOver = true" />
    </div>
  </Margin>
</template>

<style scoped>
.below {
  margin-top: 14px;
}
.narrow {
  margin: 8px 0;
}
</style>
