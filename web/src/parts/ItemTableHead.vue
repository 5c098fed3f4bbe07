<script setup lang="ts">
import Checkbox from 'primevue/checkbox'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { allChosen, type Chosen, noneChosen } from './chosen.ts'
import type { SortBy } from './segments.ts'

/** The heads of the columns of a list of items: each orders the list, and the first chooses all of it. */
const { order } = defineProps<{ columns: readonly string[]; order: readonly SortBy[] }>()
const chosen = defineModel<Chosen>('chosen')
const emit = defineEmits<{ sort: [SortBy[]] }>()
const vocabulary = useVocabulary()
const isNumber = (handle: string): boolean => vocabulary.property(handle)?.type.kind === 'number'
const sorted = (handle: string): 'ascending' | 'descending' | 'none' =>
  order[0]?.by === handle ? (order[0].direction === 'up' ? 'ascending' : 'descending') : 'none'

function sortBy(handle: string): void {
  const [first] = order
  emit('sort', [
    { by: handle, direction: first?.by === handle && first.direction === 'up' ? 'down' : 'up' },
    ...order.filter((entry) => entry.by !== handle).slice(0, 2),
  ])
}
</script>

<template>
  <div class="head" role="row">
    <span v-if="chosen" role="columnheader" class="tick"
      ><Checkbox
        binary
        :model-value="chosen.all && chosen.refs.size === 0"
        :indeterminate="chosen.refs.size > 0"
        aria-label="Choose all answers"
        @update:model-value="chosen = $event ? allChosen : noneChosen"
    /></span>
    <span
      v-for="column in columns"
      :key="column"
      role="columnheader"
      :aria-sort="sorted(column)"
      :class="{ num: isNumber(column) }"
    >
      <button
        type="button"
        :aria-label="`Order by ${vocabulary.title(column)}`"
        @click="sortBy(column)"
      >
        {{ column === 'type' ? '' : vocabulary.title(column)
        }}<span v-if="column === 'type'" class="seen-not">Type</span
        ><i v-if="sorted(column) !== 'none'" aria-hidden="true">{{
          sorted(column) === 'ascending' ? ' ↑' : ' ↓'
        }}</i>
      </button>
    </span>
  </div>
</template>

<style scoped>
.head {
  display: grid;
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 2;
  border-bottom: 1px solid var(--rule);
}
.head span {
  padding: 5px 8px;
  font-size: 12px;
  font-weight: 600;
  color: var(--quiet);
  white-space: nowrap;
  overflow: hidden;
}
.head button {
  border: 0;
  background: none;
  padding: 0;
  font-weight: 600;
  color: inherit;
  cursor: pointer;
}
.head i {
  font-style: normal;
}
.tick {
  display: flex;
  align-items: center;
}
</style>
