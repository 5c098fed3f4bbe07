<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Calendar } from '@bluestem/core/calendar'
import Sheet from '../../parts/Sheet.vue'
import { useLiving } from '../living.store.ts'

/** Working days, hours and days off: what time limits and working days are counted by. */
const { calendar } = defineProps<{ calendar?: Calendar }>()
const emit = defineEmits<{ close: [] }>()
const living = useLiving()
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
const daysOff = ref(
  (calendar?.daysOff ?? []).map(({ day, title: why }) => `${day} ${why}`.trim()).join('\n'),
)
const busy = ref(false)
const windows = computed(() =>
  hours.value.map((text) =>
    text
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean)
      .map((one) => one.split(/\s*[-–]\s*/)),
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
const wrongDay = computed(() =>
  daysOff.value
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .find((line) => !/^\d{4}-\d{2}-\d{2}(?: |$)/.test(line)),
)
const told = computed(() =>
  wrong.value >= 0
    ? `${days[wrong.value]}: write hours such as 08:00–12:00, 13:00–17:00.`
    : wrongDay.value
      ? `“${wrongDay.value}”: write a day and its name, such as 2026-12-25 Midwinter.`
      : '',
)

async function keep(): Promise<void> {
  busy.value = true
  const given = {
    title: title.value,
    hours: Object.fromEntries(
      windows.value.map((ones, index) => [
        String(index + 1),
        ones.map(([from = '', to = '']) => [from, to] as const),
      ]),
    ),
    daysOff: daysOff.value
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => ({ day: line.slice(0, 10), title: line.slice(11).trim() })),
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
  <Sheet :title="calendar ? `Change ${calendar.title}` : 'New calendar'" @close="emit('close')">
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
      <label class="field"
        ><span>Days off, one a line</span
        ><Textarea v-model="daysOff" rows="4" placeholder="2026-12-25 Midwinter" fluid />
      </label>
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
