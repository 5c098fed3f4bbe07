<script setup lang="ts">
import type { PlanAnswer } from '@bluestem/core/iterations'
import { computed } from 'vue'
import Margin from '../parts/Margin.vue'
import { counted, numberWords } from '../parts/words.ts'
import { capacityWords, isOverCapacity } from './words.ts'

/** How much can be worked in an iteration, by whom, and how that compares with what is planned. */
const { plan } = defineProps<{ plan: PlanAnswer | undefined }>()
const capacity = computed(() => plan?.capacity)
const compared = computed(() => (plan ? capacityWords(plan.outcome, plan.capacity) : ''))
const isOver = computed(() => plan !== undefined && isOverCapacity(plan.outcome, plan.capacity))
</script>

<template>
  <Margin>
    <template v-if="capacity">
      <h2>{{ numberWords(capacity.hours) }} hours</h2>
      <p class="quiet">
        can be worked in it: {{ counted(capacity.workingDays, 'working day') }},
        {{ counted(capacity.days, 'day') }} of all together
      </p>
      <template v-if="compared">
        <h3>Planned</h3>
        <div class="line" :class="{ warn: isOver }">
          <span>{{ isOver ? 'more than fits' : 'of what fits' }}</span><span>{{ compared }}</span>
        </div>
      </template>
      <h3>Who</h3>
      <div v-for="person in capacity.people" :key="person.id" class="line">
        <span>{{ person.title }}</span><span
          >{{ counted(person.days, 'day')
          }}<span v-if="person.away" class="warn">, away {{ person.away }}</span></span
        >
      </div>
      <p class="quiet">
        From the team’s calendar, its days off, and
        <RouterLink to="/definitions/people?away">who is away</RouterLink>.
      </p>
    </template>
    <p v-else class="quiet">
      An iteration of the whole workspace has no capacity of its own: it is planned by its teams.
    </p>
  </Margin>
</template>
