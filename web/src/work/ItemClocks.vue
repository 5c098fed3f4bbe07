<script setup lang="ts">
import type { WholeItemAnswer } from '@bluestem/core/work'
import { useSession } from '../session/session.store.ts'
import { momentWords, numberWords } from '../parts/words.ts'

/** The clocks of an item's time limits, in hours of working time. */
const { item } = defineProps<{ item: WholeItemAnswer }>()
const session = useSession()
type Clock = WholeItemAnswer['limits'][number]
const hours = (minutes: number): string => `${numberWords(Math.round(minutes / 6) / 10)} h`
const words: Record<string, string> = {
  'not begun': 'has not begun',
  met: 'kept',
  missed: 'was not kept',
  passed: 'has passed',
  'standing still': 'stands still',
  running: 'runs',
}
const tone = ({ state, warning }: Clock): string =>
  state === 'met' ? 'well' : state === 'missed' || state === 'passed' || warning ? 'warn' : 'quiet'
</script>

<template>
  <ul v-if="item.limits.length" aria-label="Time limits">
    <li v-for="clock in item.limits" :key="clock.id">
      <span>{{ clock.title }}</span>{{ ' '
      }}<span :class="tone(clock)">{{ words[clock.state] ?? clock.state }}</span
      >, <span class="quiet">{{ hours(clock.used) }} of {{ hours(clock.allowed) }} used</span
      ><template v-if="clock.runsOut"
        >,
        <span :class="tone(clock)"
          >runs out {{ momentWords(clock.runsOut, session.now) }}</span
        ></template
      >
    </li>
    <li class="quiet">
      counted in {{ item.limits[0]?.calendar
      }}{{ item.limits[0]?.team ? `, the calendar of ${item.limits[0]?.team}` : '' }}
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: -4px 0 12px;
  padding: 0;
  display: flex;
  gap: 4px 26px;
  flex-wrap: wrap;
  font-size: 13px;
}
</style>
