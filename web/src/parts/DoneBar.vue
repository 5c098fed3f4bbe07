<script setup lang="ts">
import { computed } from 'vue'
import { numberWords } from './words.ts'

/** How many of several are done: a bar, and the two numbers. */
const { done, of, label } = defineProps<{
  done: number
  of: number
  /** what the bar tells, for whoever does not see it */
  label: string
}>()
const share = computed(() => (of === 0 ? 0 : Math.round((100 * done) / of)))
</script>

<template>
  <span class="done" role="img" :aria-label="`${label}: ${done} of ${of}`">
    <span class="bar"><span :style="{ width: `${share}%` }" /></span>
    <span>{{ numberWords(done) }}/{{ numberWords(of) }}</span>
  </span>
</template>

<style scoped>
.done {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
.bar {
  width: 40px;
  height: 6px;
  border: 1px solid var(--rule);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--leaf);
}
</style>
