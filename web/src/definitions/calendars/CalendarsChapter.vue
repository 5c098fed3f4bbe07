<script setup lang="ts">
import Column from 'primevue/column'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Calendar } from '@bluestem/core/calendar'
import Ledger from '../../parts/Ledger.vue'
import Margin from '../../parts/Margin.vue'
import { firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import { useSelected } from '../chapter/selected.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import CalendarForm from './CalendarForm.vue'
import SmallYear from './SmallYear.vue'
import { offWords, weekWords } from './week.ts'
import { useSession } from '../../session/session.store.ts'

/** The hours people work, and the days they do not: what time limits and measures of working time run by. */
const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const selected = useSelected()
const editing = ref<Calendar | 'new'>()
const chosen = computed(
  () => living.calendars.find((calendar) => calendar.id === selected.value) ?? living.calendars[0],
)
const followers = (entry: Calendar): readonly string[] =>
  [
    ...living.projects.filter(
      (project) => (project.calendar ?? null) === entry.id || (entry.standard && !project.calendar),
    ),
    ...living.teams.filter((each) => each.calendar === entry.id),
  ].map((each) => each.title)
</script>

<template>
  <section class="sheet">
    <ChapterHead
      living
      about="The hours in which you work, and the days off. Time limits run by them."
      title="Calendars"
      make="New calendar"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
    />
    <Ledger
      :rows="living.calendars"
      label="Calendars"
      :selected="chosen?.id"
      @update:selected="selected = $event"
      @open="(row) => definitions.mayDefineAll && (editing = row)"
      ><Column header="Title" class="nowrap"
        ><template #body="{ data: calendar }"
          >{{ calendar.title
          }}<small v-if="calendar.standard" class="quiet">
            wherever no other is named</small
          ></template
        ></Column
      >
      <Column header="Working hours"
        ><template #body="{ data: calendar }"
          ><div v-for="line in weekWords(calendar)" :key="line" class="quiet nowrap">
            {{ line }}
          </div></template
        ></Column
      >
      <Column header="Days off" class="num"
        ><template #body="{ data: calendar }">{{ calendar.daysOff.length }}</template></Column
      >
      <Column header="Projects and teams that work by it"
        ><template #body="{ data: calendar }"
          ><span class="quiet">{{ firstOf(followers(calendar), 6) || 'none' }}</span></template
        ></Column
      ></Ledger
    >
    <CalendarForm
      v-if="editing"
      v-bind="editing === 'new' ? {} : { calendar: editing }"
      @close="editing = undefined"
    />
  </section>
  <Margin v-if="chosen">
    <h2>{{ chosen.title }}</h2>
    <div class="quiet">
      {{ chosen.standard ? 'the workspace’s own' : 'for the projects and teams that name it' }}
    </div>
    <h3>Days off</h3>
    <SmallYear :key="chosen.id" :working="chosen" :from="session.now.getFullYear()" />
    <div v-for="off in chosen.daysOff.slice(0, 40)" :key="off.day + off.title" class="line">
      <span>{{ off.title || 'day off' }}</span><span>{{ offWords(off, session.now) }}</span>
    </div>
    <h3>What changing it would touch</h3>
    <p class="quiet">
      {{
        followers(chosen).length
          ? `Clocks in ${firstOf(followers(chosen), 8)} are worked out by it whenever they are looked at.`
          : 'Nothing works by it yet.'
      }}
    </p>
    <div v-if="definitions.mayDefineAll" class="acts below">
      <Button severity="secondary" label="Change" @click="editing = chosen" /><Button
        v-if="!chosen.standard"
        severity="secondary"
        label="Delete"
        @click="
          living.change('DELETE /calendars/{id}', {
            params: { id: chosen.id },
            match: chosen.version,
          })
        "
      />
    </div>
  </Margin>
</template>

<style scoped>
.below {
  margin-top: 14px;
}
small {
  font-size: 12px;
}
</style>
