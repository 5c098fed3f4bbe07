<script setup lang="ts">
import Button from 'primevue/button'
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import {
  addDays,
  isDayOff,
  titleOfDayOff,
  weekday,
  type WorkingTime,
} from '@bluestem/core/calendar'
import { computed, ref } from 'vue'

/** A year on a few lines: a square a day, Monday to Sunday; what is worked, what never is, and the days off. */
const { working, from } = defineProps<{
  working: WorkingTime
  /** the year that is shown first */
  from: number
}>()
const year = ref(from)
const monthName = new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' })

const cell = 9
const months = computed(() =>
  Array.from({ length: 12 }, (_, index) => {
    const first = `${String(year.value).padStart(4, '0')}-${String(index + 1).padStart(2, '0')}-01`
    const days: string[] = []
    for (let day = first; day.slice(0, 7) === first.slice(0, 7); day = addDays(day, 1))
      days.push(day)
    return {
      name: monthName.format(new Date(first)),
      days: days.map((day, at) => ({
        day,
        x: (weekday(day) - 1) * cell,
        y: Math.floor((at + weekday(first) - 1) / 7) * cell,
        kind: kindOf(day),
        words: `${day}${isDayOff(day, working.daysOff) ? `: ${titleOfDayOff(day, working.daysOff) || 'day off'}` : ''}`,
      })),
    }
  }),
)

function kindOf(day: string): 'off' | 'worked' | 'never' {
  if (isDayOff(day, working.daysOff)) return 'off'
  return (working.hours[weekday(day)] ?? []).length > 0 ? 'worked' : 'never'
}

const count = computed(
  () => months.value.flatMap((month) => month.days).filter((entry) => entry.kind === 'off').length,
)
</script>

<template>
  <figure>
    <figcaption class="row">
      <Button
        variant="text"
        severity="secondary"
        size="small"
        aria-label="The year before"
        @click="year -= 1"
        ><ChevronLeft class="icon" /></Button
      ><b>{{ year }}</b
      ><Button
        variant="text"
        severity="secondary"
        size="small"
        aria-label="The year after"
        @click="year += 1"
        ><ChevronRight class="icon" /></Button
      ><span class="quiet">{{ count === 1 ? '1 day off' : `${count} days off` }}</span>
    </figcaption>
    <div class="months" role="img" :aria-label="`${year}: ${count} days off`">
      <div v-for="month in months" :key="month.name">
        <span class="quiet">{{ month.name }}</span>
        <svg :viewBox="`0 0 ${7 * cell} ${6 * cell}`" :width="7 * cell" :height="6 * cell">
          <rect
            v-for="entry in month.days"
            :key="entry.day"
            :x="entry.x + 0.5"
            :y="entry.y + 0.5"
            :width="cell - 2"
            :height="cell - 2"
            :class="entry.kind"
          >
            <title>{{ entry.words }}</title>
          </rect>
        </svg>
      </div>
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.months {
  display: grid;
  grid-template-columns: repeat(auto-fill, 66px);
  gap: 8px 12px;
  font-size: 11px;
}
svg {
  display: block;
}
rect {
  fill: var(--sheet);
  stroke: var(--rule);
  stroke-width: 0.75;
}
.never {
  fill: var(--hair);
  stroke: none;
}
.off {
  fill: var(--russet);
  stroke: none;
}
</style>
