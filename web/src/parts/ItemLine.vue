<script setup lang="ts">
import type { ItemAnswer } from '@bluestem/core/queries'
import Checkbox from 'primevue/checkbox'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { isSettled } from './isSettled.ts'
import { valueOf } from './valueOf.ts'
import ValueText from './ValueText.vue'

/** One row of a list of items; nothing but a mark until it is read. */
const {
  item = undefined,
  columns,
  taken,
} = defineProps<{
  item?: ItemAnswer
  columns: readonly string[]
  /** whether it can be chosen */
  choosable: boolean
  taken: boolean
}>()
const emit = defineEmits<{ choose: [MouseEvent] }>()
const vocabulary = useVocabulary()
const isNumber = (handle: string): boolean => vocabulary.property(handle)?.type.kind === 'number'
</script>

<template>
  <div class="line" role="row" :data-ref="item?.ref">
    <template v-if="item">
      <span
        v-if="choosable"
        role="gridcell"
        class="tick"
        @click.stop.prevent="emit('choose', $event)"
        ><Checkbox binary :model-value="taken" :tabindex="-1" :aria-label="`Choose ${item.ref}`"
      /></span>
      <span
        v-for="column in columns"
        :key="column"
        role="gridcell"
        :class="['cut', { num: isNumber(column) }]"
      >
        <RouterLink
          v-if="column === 'ref' || column === 'title'"
          :to="`/work/${item.ref}`"
          :class="column"
          tabindex="-1"
          >{{ column === 'ref' ? item.ref : item.title }}</RouterLink
        >
        <ValueText
          v-else
          :handle="column"
          :value="valueOf(item, column)"
          :settled="isSettled(item)"
        />
      </span>
    </template>
    <span v-else role="gridcell" class="quiet">…</span>
  </div>
</template>

<style scoped>
.line > span {
  padding: 0 8px;
}
.tick {
  display: flex;
  align-items: center;
}
.title {
  color: var(--ink);
}
.ref {
  color: var(--quiet);
}
</style>
