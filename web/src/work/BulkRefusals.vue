<script setup lang="ts">
import type { BulkRefusal } from '@bluestem/core/bulk'
import { counted } from '../parts/words.ts'

/** What is told of items, such as why they are left as they are: word by word, with the first of each. */
const {
  refused,
  label = 'Refused',
  calm = false,
} = defineProps<{
  refused: readonly BulkRefusal[]
  label?: string
  /** whether it is no refusal */
  calm?: boolean
}>()
</script>

<template>
  <ul v-if="refused.length" class="refused" :aria-label="label">
    <li v-for="entry in refused" :key="entry.message">
      <b :class="{ warn: !calm }">{{ counted(entry.count, 'item') }}</b>: {{ entry.message }}
      <span class="refs">
        <RouterLink v-for="ref in entry.refs.slice(0, 8)" :key="ref" :to="`/work/${ref}`">{{
          ref
        }}</RouterLink>
        <span v-if="entry.count > 8" class="quiet">and {{ entry.count - 8 }} more</span>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.refused {
  margin: 8px 0;
  padding: 0;
  list-style: none;
  max-height: 220px;
  overflow: auto;
}
.refused li {
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.refs {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  font-size: 12.5px;
}
</style>
