<script setup lang="ts">
import { diffWords } from 'diff'
import { computed } from 'vue'

/** A text before and after: what was taken out, what was put in, and what both have between them. */
const { before, after } = defineProps<{ before: string | null; after: string | null }>()
const words = (text: string): number => text.split(/\s+/).length
/** A few words, and two texts with little in common, are read more easily one after the other. */
const parts = computed(() => {
  if (before === null || after === null || Math.min(words(before), words(after)) < 4)
    return undefined
  const found = diffWords(before, after)
  const common = found.filter((entry) => !entry.added && !entry.removed).map((entry) => entry.value)
  return common.join('').trim().length * 2 >= Math.max(before.length, after.length)
    ? found
    : undefined
})
</script>

<template>
  <span class="difference"
    ><template v-if="parts"
      ><component
        :is="part.added ? 'ins' : part.removed ? 'del' : 'span'"
        v-for="(part, index) in parts"
        :key="index"
        >{{ part.value }}</component
      ></template
    ><template v-else
      ><del v-if="before !== null">{{ before }}</del
      >{{ before !== null && after !== null ? ' ' : ''
      }}<ins v-if="after !== null">{{ after }}</ins></template
    ></span
  >
</template>

<style scoped>
.difference {
  overflow-wrap: anywhere;
}
ins {
  color: var(--leaf);
  text-decoration: none;
}
del {
  color: var(--russet);
}
span > span {
  white-space: pre-wrap;
}
</style>
