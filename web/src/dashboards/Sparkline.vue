<script setup lang="ts">
import { computed } from 'vue'

/** A course in small: its shape only, without axes. */
const { values, tone } = defineProps<{
  values: readonly (number | null)[]
  label: string
  tone: 'stem' | 'leaf' | 'russet'
}>()
const points = computed(() => {
  const known = values.filter((value) => value !== null)
  const [least, most] = [Math.min(...known), Math.max(...known)]
  const height = (value: number): number =>
    30 - (most === least ? 13 : ((value - least) / (most - least)) * 26)
  return values
    .flatMap((value, index) =>
      value === null
        ? []
        : [
            `${((index / Math.max(1, values.length - 1)) * 110).toFixed(1)},${height(value).toFixed(1)}`,
          ],
    )
    .join(' ')
})
</script>

<template>
  <svg
    height="34"
    viewBox="0 0 110 34"
    preserveAspectRatio="none"
    role="img"
    :aria-label="label"
    :class="tone"
  >
    <polyline
      :points="points"
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
      vector-effect="non-scaling-stroke"
    />
  </svg>
</template>

<style scoped>
.stem {
  color: var(--stem);
}
.leaf {
  color: var(--leaf);
}
.russet {
  color: var(--russet);
}
svg {
  flex: 0 1 110px;
  min-width: 24px;
}
</style>
