<script setup lang="ts">
import type { BulkRefusal } from '@bluestem/core/bulk'
import { counted } from '../parts/words.ts'

/** Why items are left as they are, reason by reason, with the first of each. */
const { refused } = defineProps<{ refused: readonly BulkRefusal[] }>()
</script>

<template>
  <ul v-if="refused.length" class="refused" aria-label="Refused">
    <li v-for="one in refused" :key="one.message">
      <b class="warn">{{ counted(one.count, 'item') }}</b>: {{ one.message }}
      <span class="refs">
        <RouterLink v-for="ref in one.refs.slice(0, 8)" :key="ref" :to="`/work/${ref}`">{{
          ref
        }}</RouterLink>
        <span v-if="one.count > 8" class="quiet">and {{ one.count - 8 }} more</span>
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
