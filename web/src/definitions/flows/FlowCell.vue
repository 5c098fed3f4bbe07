<script setup lang="ts">
import { computed } from 'vue'
import { theme } from '../../theme/theme.ts'
import { numberWords } from '../../parts/words.ts'

/** One move in the grid of a flow: whether it is allowed, what the draft would change, and how often it was made. */
const { now, was, count, most } = defineProps<{
  /** the move, in words */
  move: string
  /** whether it is allowed in the draft, and whether it was before */
  now: boolean
  was: boolean
  /** how often it was made, and how often the most common move was */
  count: number
  most: number
  selected: boolean
}>()
const words = {
  allowed: 'allowed',
  happened: 'not allowed, yet it happened',
  closed: 'not allowed',
  allows: 'this draft allows it',
  forbids: 'this draft forbids it',
}
const state = computed((): keyof typeof words => {
  if (now !== was) return now ? 'allows' : 'forbids'
  if (now) return 'allowed'
  return count > 0 ? 'happened' : 'closed'
})
/** How deep a shade may be for ink to stand on it with a contrast of 4.5 to 1 in the theme in use. */
const deepest = computed(() => (theme.value === 'light' ? 50 : 30))
const shade = computed(() => Math.round(10 + deepest.value * Math.sqrt(count / most)))
const background = computed(() =>
  state.value === 'allowed' && count > 0
    ? { background: `color-mix(in srgb, var(--stem) ${shade.value}%, var(--sheet))` }
    : {},
)
const text = computed(() => {
  if (count) return numberWords(count)
  return { allows: 'allow', allowed: '0', happened: '·', closed: '·', forbids: '·' }[state.value]
})
</script>

<template>
  <button
    type="button"
    :class="['cell', state, { selected }]"
    :aria-pressed="now"
    :aria-label="`${move}: ${words[state]}, ${count} times`"
    :style="background"
  >
    {{ text }}
  </button>
</template>

<style scoped>
.cell {
  width: 100%;
  height: 32px;
  border: 0;
  background: none;
  cursor: pointer;
  padding: 0;
  color: var(--ink);
}
.closed {
  color: var(--quiet);
}
.allowed {
  background: color-mix(in srgb, var(--stem) 8%, var(--sheet));
}
.happened {
  background: repeating-linear-gradient(135deg, var(--russet-wash) 0 6px, transparent 6px 12px);
  color: var(--russet);
}
.allows {
  box-shadow: inset 0 0 0 2px var(--leaf);
  color: var(--leaf);
  background: var(--sheet);
}
.forbids {
  box-shadow: inset 0 0 0 2px var(--russet);
  color: var(--russet);
  text-decoration: line-through;
  background: var(--sheet);
}
.cell:focus-visible {
  outline-offset: -2px;
}
.selected {
  outline: 2px solid var(--ink);
  outline-offset: -3px;
}
</style>
