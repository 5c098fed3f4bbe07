<script setup lang="ts">
import type { TeamAnswer } from '@bluestem/core/teams'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import { inOneLine } from '@bluestem/core/queries'
import TeamForm from './TeamForm.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** The teams, with what is theirs and when they work; the one selected may be changed. */
const selected = defineModel<string | undefined>({ required: true })
const editing = defineModel<TeamAnswer | 'new' | undefined>('editing')
const definitions = useDefinitions()
const living = useLiving()
</script>

<template>
  <Ledger
    v-if="living.teams.length"
    :rows="living.teams"
    label="Teams"
    :selected="selected"
    @update:selected="selected = $event"
    @open="(row) => definitions.mayDefineAll && (editing = row)"
    ><Column header="Title" sortable sort-field="title" class="nowrap"
      ><template #body="{ data: team }">{{ team.title }}</template></Column
    >
    <Column header="Remit"
      ><template #body="{ data: team }"
        ><span v-if="team.remit.errors.length" class="warn">{{
          team.remit.errors[0]?.message
        }}</span
        ><span v-else class="quiet">{{
          team.remit.sentence.length ? inOneLine(team.remit.sentence) : 'none yet'
        }}</span></template
      ></Column
    >
    <Column header="Works by" class="nowrap"
      ><template #body="{ data: team }"
        ><span class="quiet">{{
          living.calendars.find((each) => each.id === team.calendar)?.title ?? 'each project’s'
        }}</span></template
      ></Column
    >
    <Column header="People" sortable sort-field="people.length" class="num"
      ><template #body="{ data: team }">{{ team.people.length }}</template></Column
    ></Ledger
  >
  <p v-else class="blank">
    Here the teams would stand: who is in them, which items are theirs, and the hours they work.
  </p>
  <TeamForm
    v-if="editing"
    v-bind="editing === 'new' ? {} : { team: editing }"
    @kept="(id) => (selected = id)"
    @close="editing = undefined"
  />
</template>
