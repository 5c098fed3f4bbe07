<script setup lang="ts">
import Button from 'primevue/button'
import { inOneLine } from '@bluestem/core/queries'
import type { Team } from '../api/types.ts'
import TeamForm from './TeamForm.vue'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

/** The teams, with what is theirs and when they work; the one selected may be changed. */
const selected = defineModel<string | undefined>({ required: true })
const editing = defineModel<Team | 'new' | undefined>('editing')
const definitions = useDefinitions()
const living = useLiving()
</script>

<template>
  <div class="row">
    <h2 class="grow">Teams</h2>
    <Button
      severity="secondary"
      v-if="definitions.mayDefineAll"
      @click="editing = 'new'"
      label="New team"
    />
  </div>
  <table v-if="living.teams.length" class="ledger">
    <thead>
      <tr>
        <th scope="col">Title</th>
        <th scope="col">Remit</th>
        <th scope="col">Works by</th>
        <th scope="col" class="num">People</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="one in living.teams"
        :key="one.id"
        tabindex="0"
        :class="{ selected: one.id === selected }"
        @click="selected = one.id"
        @focus="selected = one.id"
        @keydown.enter.self.prevent="definitions.mayDefineAll && (editing = one)"
      >
        <td class="nowrap">{{ one.title }}</td>
        <td>
          <span v-if="one.remit.errors.length" class="warn">{{
            one.remit.errors[0]!.message
          }}</span><span v-else class="quiet">{{
            one.remit.sentence.length ? inOneLine(one.remit.sentence) : 'none yet'
          }}</span>
        </td>
        <td class="quiet nowrap">
          {{ living.calendars.find((each) => each.id === one.calendar)?.title ?? 'each project’s' }}
        </td>
        <td class="num">{{ one.people.length }}</td>
      </tr>
    </tbody>
  </table>
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

<style scoped>
.row {
  margin: 26px 0 4px;
}
</style>
