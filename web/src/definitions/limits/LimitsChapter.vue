<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Calendar } from '@bluestem/core/calendar'
import { entriesOf, inOrder, type TimeLimit } from '@bluestem/core/definitions'
import { inOneLine } from '@bluestem/core/queries'
import type { Team } from '../../api/types.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import Margin from '../../parts/Margin.vue'
import { firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import CalendarForm from '../calendars/CalendarForm.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import LimitForm from './LimitForm.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import TeamsTable from '../people/TeamsTable.vue'
import { useDefinitions } from '../definitions.store.ts'
import { useLiving } from '../living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const editing = ref<string>()
const calendarEdited = ref<Calendar | 'new'>()
const teamEdited = ref<Team | 'new'>()
const limits = computed(() => inOrder(definitions.document.limits))
const chosen = computed(
  () =>
    limits.value.find((one) => one.id === selected.value) ??
    ([...living.calendars, ...living.teams].some((one) => one.id === selected.value)
      ? undefined
      : limits.value[0]),
)
const team = computed(() => living.teams.find((one) => one.id === selected.value))
const calendar = computed(() => living.calendars.find((one) => one.id === selected.value))
const offered = (id: string): boolean =>
  entriesOf(definitions.document, definitions.rulebook).has(`limit:${id}`)
const may = computed(() => definitions.mayChange(definitions.rulebook))
const statuses = (ids: readonly string[] | undefined): string =>
  (ids ?? []).map((id) => definitions.document.statuses[id]?.title ?? id).join(', ')
const hoursWords = (minutes: number): string =>
  minutes % 60 === 0
    ? `${minutes / 60} h`
    : minutes > 60
      ? `${Math.floor(minutes / 60)} h ${minutes % 60} min`
      : `${minutes} min`
const whose = (one: TimeLimit['allowances'][number]): string =>
  one.label
    ? `label ${living.labels.find((label) => label.id === one.label)?.title ?? one.label}`
    : one.priority
      ? (definitions.document.priorities[one.priority]?.title ?? one.priority)
      : one.urgency
        ? `urgency ${one.urgency}`
        : 'anything else'
const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
/** the working week, days of the same hours together: “Mon–Fri 08:00–17:00” */
function week(one: Calendar): string {
  const stretches: { from: string; to: string; hours: string }[] = []
  dayNames.forEach((day, index) => {
    const hours = (one.hours[String(index + 1)] ?? [])
      .map(([from, to]) => `${from}–${to}`)
      .join(', ')
    const last = stretches.at(-1)
    if (last?.hours === hours) last.to = day
    else stretches.push({ from: day, to: day, hours })
  })
  return (
    stretches
      .filter(({ hours }) => hours)
      .map(({ from, to, hours }) => `${from === to ? from : `${from}–${to}`} ${hours}`)
      .join(' · ') || 'nobody ever works'
  )
}
const followers = (one: Calendar): string =>
  firstOf(
    [
      ...living.projects.filter(
        (project) => (project.calendar ?? null) === one.id || (one.standard && !project.calendar),
      ),
      ...living.teams.filter((each) => each.calendar === one.id),
    ].map((each) => each.title),
    6,
  )
const retire = async (id: string, retired: boolean): Promise<boolean> =>
  await definitions.edit([{ path: ['limits', id, 'retired'], ...(retired ? { after: true } : {}) }])
const allowanceWords = ({ allowances }: TimeLimit): string =>
  allowances.map((each) => `${whose(each)}: ${hoursWords(each.minutes)}`).join(' · ')
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="How long an item may stay unanswered or unfinished, in working time."
      title="Time limits"
      make="New time limit"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
      ><span>held to in rulebook</span><RulebookChoice
    /></ChapterHead>
    <Ledger
      v-if="limits.length"
      :rows="limits"
      label="Time limits"
      :selected="chosen?.id"
      :mark="
        (one) => ({
          'in-draft': definitions.isChanged('limits', one.id),
          retired: one.retired,
        })
      "
      @update:selected="selected = $event!"
      @open="(one) => definitions.mayDefineAll && (editing = one.id)"
      ><Column header="Title" class="nowrap"
        ><template #body="{ data: one }">{{ one.title }}</template></Column
      >
      <Column header="Until it is"
        ><template #body="{ data: one }">{{
          one.what === 'respond' ? 'answered' : 'finished'
        }}</template></Column
      >
      <Column header="Allowed"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ allowanceWords(one) }}</span></template
        ></Column
      >
      <Column header="Clock starts"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ statuses(one.starts) || 'when made' }}</span></template
        ></Column
      >
      <Column header="Stands still"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ statuses(one.stops) || 'on hold' }}</span></template
        ></Column
      >
      <Column header="Ends"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ statuses(one.ends) }}</span></template
        ></Column
      >
      <Column header="Warns" class="num"
        ><template #body="{ data: one }">{{ one.warnAt }} %</template></Column
      >
      <Column header="Here"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ offered(one.id) ? 'kept' : '–' }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else class="blank">
      Here the time limits would stand: how long something urgent may wait for its first answer, for
      example.
    </p>
    <div class="row calendars">
      <h2 class="grow">Calendars</h2>
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="calendarEdited = 'new'"
        label="New calendar"
      />
    </div>
    <Ledger
      :rows="living.calendars"
      label="Calendars"
      :selected="calendar?.id"
      @update:selected="selected = $event!"
      @open="(one) => definitions.mayDefineAll && (calendarEdited = one)"
      ><Column header="Title" class="nowrap"
        ><template #body="{ data: one }"
          >{{ one.title
          }}<small v-if="one.standard" class="quiet"> wherever no other is named</small></template
        ></Column
      >
      <Column header="Working hours"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ week(one) }}</span></template
        ></Column
      >
      <Column header="Days off" class="num"
        ><template #body="{ data: one }">{{ one.daysOff.length }}</template></Column
      >
      <Column header="Projects and teams that work by it"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ followers(one) || 'none' }}</span></template
        ></Column
      ></Ledger
    >
    <TeamsTable v-model="selected" v-model:editing="teamEdited" />
    <LimitForm v-if="editing" :id="editing" @close="editing = undefined" />
    <CalendarForm
      v-if="calendarEdited"
      v-bind="calendarEdited === 'new' ? {} : { calendar: calendarEdited }"
      @close="calendarEdited = undefined"
    />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`until it is ${chosen.what === 'respond' ? 'answered' : 'finished'}${chosen.retired ? ', retired' : ''}`"
    :description="chosen.description"
    :countable="false"
    touches="Clocks are worked out when they are looked at, so a change holds for running ones too."
  >
    <h3>Allowed, in working time</h3>
    <div v-for="(one, index) in chosen.allowances" :key="index" class="line">
      <span>{{ whose(one) }}</span><span>{{ hoursWords(one.minutes) }}</span>
    </div>
    <h3>Kept by</h3>
    <p class="quiet">
      {{
        definitions.rulebooks
          .filter((one) => entriesOf(definitions.document, one.id).has(`limit:${chosen!.id}`))
          .map((one) => one.title)
          .join(', ') || 'no rulebook'
      }}
    </p>
    <template #acts
      ><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="editing = chosen.id"
        label="Change" /><Button
        severity="secondary"
        v-if="may"
        @click="
          definitions.edit([
            definitions.sayEntry(`limit:${chosen.id}`, offered(chosen.id) ? null : {}),
          ])
        "
        :label="
          offered(chosen.id) ? 'Leave out of this rulebook' : 'Keep in this rulebook'
        " /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="retire(chosen.id, !chosen.retired)"
        :label="chosen.retired ? 'Bring back' : 'Retire'"
    /></template>
  </EntryMargin>
  <Margin v-else-if="calendar">
    <h2>{{ calendar.title }}</h2>
    <div class="quiet">
      {{ calendar.standard ? 'the workspace’s own' : 'for the projects and teams that name it' }}
    </div>
    <h3>Days off</h3>
    <div v-for="off in calendar.daysOff.slice(0, 40)" :key="off.day" class="line">
      <span>{{ off.title || 'day off' }}</span><span>{{ off.day }}</span>
    </div>
    <p v-if="!calendar.daysOff.length" class="quiet">none yet</p>
    <div class="acts below">
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="calendarEdited = calendar"
        label="Change"
      /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll && !calendar.standard"
        @click="living.change('DELETE', `/calendars/${calendar.id}`, undefined, calendar.version)"
        label="Delete"
      />
    </div>
  </Margin>
  <Margin v-else-if="team">
    <h2>{{ team.title }}</h2>
    <div class="quiet">
      {{
        living.calendars.find((one) => one.id === team!.calendar)?.title ??
        'works by the calendar of each project'
      }}
    </div>
    <h3>Remit</h3>
    <p v-if="team.remit.errors.length" class="warn">{{ team.remit.errors[0]!.message }}</p>
    <template v-else-if="team.remit.kept"
      ><p class="quiet">{{ inOneLine(team.remit.sentence) }}</p>
      <RouterLink :to="itemsBehind(team.remit.kept)">their items</RouterLink></template
    >
    <p v-else class="quiet">No item is theirs yet.</p>
    <h3>People</h3>
    <p>
      {{
        living.people
          .filter((one) => team!.people.includes(one.id))
          .map((one) => one.name)
          .join(', ') || 'nobody yet'
      }}
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
        @click="teamEdited = team"
        label="Change"
      /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="living.change('DELETE', `/teams/${team.id}`, undefined, team.version)"
        label="Delete"
      />
    </div>
  </Margin>
</template>

<style scoped>
.calendars {
  margin: 26px 0 4px;
}
.below {
  margin-top: 14px;
}
small {
  font-size: 12px;
}
</style>
