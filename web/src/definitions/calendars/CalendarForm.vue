<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { type Calendar, type DayOff, wrongDayOff } from '@bluestem/core/calendar'
import Sheet from '../../parts/Sheet.vue'
import DaysOff from './DaysOff.vue'
import SmallYear from './SmallYear.vue'
import { useSession } from '../../session/session.store.ts'
import { useLiving } from '../store/living.store.ts'

/** Working days, hours and days off: what time limits and working days are counted by. */
const { calendar } = defineProps<{ calendar?: Calendar }>()
const emit = defineEmits<{ close: [] }>()
const living = useLiving()
const session = useSession()
const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const title = ref(calendar?.title ?? '')
const hours = ref(
  days.map((_, index) =>
    (calendar
      ? (calendar.hours[String(index + 1)] ?? [])
      : index < 5
        ? [['08:00', '16:00'] as const]
        : []
    )
      .map(([from, to]) => `${from}–${to}`)
      .join(', '),
  ),
)
const daysOff = ref<readonly DayOff[]>(calendar?.daysOff ?? [])
const busy = ref(false)
const windows = computed(() =>
  hours.value.map((text) =>
    text
      .split(',')
      .map((entry) => entry.trim())
      .filter(Boolean)
      .map((entry) => entry.split(/\s*[-–]\s*/)),
  ),
)
const wrong = computed(() =>
  windows.value.findIndex((ones) =>
    ones.some(
      (pair) =>
        pair.length !== 2 ||
        !pair.every((time) => /^(?:[01]\d|2[0-3]):[0-5]\d$|^24:00$/.test(time)),
    ),
  ),
)
/** Entries as far as they are days; one that is only begun is left out. */
const begun = computed(() =>
  daysOff.value.filter((entry) => entry.day !== '' || entry.title !== ''),
)
const sound = computed(() => begun.value.filter((entry) => wrongDayOff(entry) === undefined))
const weekHours = computed(() =>
  Object.fromEntries(
    windows.value.map((ones, index) => [
      String(index + 1),
      ones.map(([from = '', to = '']) => [from, to] as const),
    ]),
  ),
)
const told = computed(() => {
  if (wrong.value >= 0) return `${days[wrong.value]}: write hours such as 08:00–12:00, 13:00–17:00.`
  const first = begun.value.find((entry) => wrongDayOff(entry) !== undefined)
  if (!first) return ''
  return first.day === '' ? `“${first.title}”: choose its day.` : (wrongDayOff(first) ?? '')
})

async function keep(): Promise<void> {
  busy.value = true
  const given = {
    title: title.value,
    hours: weekHours.value,
    daysOff: begun.value,
  }
  if (
    calendar
      ? await living.change('PATCH /calendars/{id}', {
          params: { id: calendar.id },
          body: given,
          match: calendar.version,
        })
      : await living.change('POST /calendars', { body: given })
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet
    wide
    :title="calendar ? `Change ${calendar.title}` : 'New calendar'"
    @close="emit('close')"
  >
    <form @submit.prevent="keep">
      <label class="field"
        ><span>Title</span><InputText v-model="title" required maxlength="80" autofocus fluid
      /></label>
      <div class="field">
        <span>Working hours; nothing on a day nobody works</span
        ><label v-for="(day, index) in days" :key="day" class="row day"
          ><span>{{ day }}</span
          ><InputText
            v-model="hours[index]"
            placeholder="nobody works"
            :aria-invalid="wrong === index"
            fluid
        /></label>
      </div>
      <DaysOff v-model="daysOff" />
      <SmallYear
        :working="{ hours: weekHours, daysOff: sound }"
        :from="session.now.getFullYear()"
      />
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <div class="acts">
        <Button type="submit" :disabled="busy || told !== ''" label="Keep" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.field > .day {
  display: flex;
  align-items: center;
}
.day span {
  width: 96px;
  flex: none;
}
</style>
