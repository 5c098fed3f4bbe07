<script setup lang="ts">
import type { TeamAnswer } from '@bluestem/core/teams'
import Button from 'primevue/button'
import { inOneLine } from '@bluestem/core/queries'
import Margin from '../../parts/Margin.vue'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** What a team is: its remit, its people, and what changing it would touch. */
const { team } = defineProps<{ team: TeamAnswer }>()
const emit = defineEmits<{ change: [] }>()
const definitions = useDefinitions()
const living = useLiving()
</script>

<template>
  <Margin>
    <h2>{{ team.title }}</h2>
    <div class="quiet">
      {{
        living.calendars.find((one) => one.id === team.calendar)?.title ??
        'works by the calendar of each project'
      }}
    </div>
    <h3>Remit</h3>
    <p v-if="team.remit.errors.length" class="warn">{{ team.remit.errors[0]?.message }}</p>
    <template v-else-if="team.remit.kept"
      ><p class="quiet">{{ inOneLine(team.remit.sentence) }}</p>
      <RouterLink :to="itemsBehind(team.remit.kept)">their items</RouterLink></template
    >
    <p v-else class="quiet">No item is theirs yet.</p>
    <h3>People</h3>
    <p>
      {{ living.namesOf(team.people) || 'nobody yet' }}
    </p>
    <h3>What changing it would touch</h3>
    <p class="quiet">
      {{
        team.calendar
          ? 'The clocks of every item in its remit run by its calendar. Where two teams’ remits meet, the first by title counts.'
          : 'Nothing yet: the clocks of its items run by the calendar of their project.'
      }}
    </p>
    <div class="acts below">
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="emit('change')"
        label="Change"
      /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="
          living.change('DELETE /teams/{id}', { params: { id: team.id }, match: team.version })
        "
        label="Delete"
      />
    </div>
  </Margin>
</template>

<style scoped>
.below {
  margin-top: 14px;
}
</style>
