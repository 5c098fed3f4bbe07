<script setup lang="ts" generic="Column extends string | null">
import { ArrowDown, ArrowUp } from '@lucide/vue'
import Button from 'primevue/button'

/** Columns in their order, each to be moved to the left or the right; the slot has what else may be done with one. */
const columns = defineModel<readonly Column[]>({ required: true })
const { titleOf } = defineProps<{ titleOf: (column: Column) => string }>()

function move(index: number, by: -1 | 1): void {
  const next = [...columns.value]
  next.splice(index + by, 0, ...next.splice(index, 1))
  columns.value = next
}
</script>

<template>
  <ol>
    <li v-for="(column, index) in columns" :key="String(column)">
      <span class="grow">{{ titleOf(column) }}</span>
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :disabled="index === 0"
        :aria-label="`${titleOf(column)} further to the left`"
        @click="move(index, -1)"
      >
        <ArrowUp class="icon" />
      </Button>
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :disabled="index === columns.length - 1"
        :aria-label="`${titleOf(column)} further to the right`"
        @click="move(index, 1)"
      >
        <ArrowDown class="icon" />
      </Button>
      <slot :column="column" />
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0 0 8px;
  padding: 0 0 8px;
  border-bottom: 1px solid var(--hair);
}
li {
  display: flex;
  gap: 4px;
  padding: 1px 0;
}
</style>
