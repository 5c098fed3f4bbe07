<script setup lang="ts">
import type { Standing, TreeRow } from '@bluestem/core/tree'
import { computed } from 'vue'
import DoneBar from '../parts/DoneBar.vue'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { numberWords } from '../parts/words.ts'

/** One row of a tree, drawn anew only where something of its own changes. */
const { index, start, row, selected, unfolded, mayChange, isDragged, target } = defineProps<{
  index: number
  /** where it begins, in pixels */
  start: number
  row: Standing<TreeRow>
  selected: boolean
  unfolded: boolean
  mayChange: boolean
  isDragged: boolean
  /** where what is dragged would go beside it */
  target: 'before' | 'after' | 'in' | undefined
}>()
const emit = defineEmits<{
  select: []
  turn: []
  drag: [DragEvent]
  over: [DragEvent]
  release: []
  end: []
}>()

const estimateWords = computed(() =>
  row.below.estimates
    .map(({ unit, done, all }) => `${numberWords(done)} / ${numberWords(all)} ${unit}`)
    .join(', '),
)
</script>

<template>
  <div
    :id="`branch-${index}`"
    :class="['line', { selected, dragged: isDragged }, target]"
    role="row"
    :aria-level="row.depth + 1"
    :aria-posinset="row.place"
    :aria-setsize="row.of"
    :aria-expanded="row.directly ? unfolded : undefined"
    :aria-selected="selected"
    :aria-rowindex="index + 2"
    :style="{ transform: `translateY(${start}px)` }"
    :data-ref="row.ref"
    :draggable="mayChange"
    @click="emit('select')"
    @dragstart="emit('drag', $event)"
    @dragover="emit('over', $event)"
    @drop.prevent="emit('release')"
    @dragend="emit('end')"
  >
    <span role="gridcell"
      ><a class="ref" tabindex="-1" :href="`/work/${row.ref}`">{{ row.ref }}</a></span
    >
    <span role="gridcell" class="title" :style="{ paddingLeft: `${8 + row.depth * 22}px` }">
      <button
        v-if="row.directly"
        type="button"
        class="turn"
        tabindex="-1"
        :aria-label="`${unfolded ? 'Fold' : 'Unfold'} ${row.ref}`"
        @click.stop="emit('turn')"
      >
        {{ unfolded ? '–' : '+' }}
      </button>
      <span v-else class="turn" />
      <TypeMark :mark="String(row.type.mark)" :title="row.type.title" />
      <a class="name cut" tabindex="-1" :href="`/work/${row.ref}`" :title="row.title">{{
        row.title
      }}</a>
      <span v-if="row.onHold" class="warn nowrap">on hold</span>
      <span v-if="row.waits[0]" class="warn nowrap"
        >{{ row.waits[0].title }}
        <a tabindex="-1" :href="`/work/${row.waits[0].id}`">{{ row.waits[0].id }}</a></span
      >
    </span>
    <span role="gridcell" class="cut"><StatusMark :status="row.status" /></span>
    <span role="gridcell" class="num"
      ><DoneBar
        v-if="row.below.items"
        :done="row.below.done"
        :of="row.below.items"
        :label="`Done below ${row.ref}`"
    /></span>
    <span role="gridcell" class="num cut" :title="estimateWords">{{ estimateWords }}</span>
    <span role="gridcell" class="cut">{{ row.assignee }}</span>
  </div>
</template>

<style scoped>
.line {
  position: absolute;
  inset: 0 0 auto;
  display: grid;
  grid-template-columns: var(--branch-columns);
  align-items: center;
  height: 32px;
  border-bottom: 1px solid var(--hair);
  font-size: 13.5px;
  contain: strict;
}
.line > span {
  padding: 0 8px;
}
.num {
  text-align: right;
}
.title {
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.title .nowrap {
  font-size: 12.5px;
}
.name {
  color: var(--ink);
}
.ref {
  color: var(--quiet);
}
.turn {
  flex: none;
  width: 16px;
  border: 0;
  background: none;
  padding: 0;
  color: var(--quiet);
  cursor: pointer;
}
.line:hover {
  background: var(--wash);
}
.line.selected {
  background: var(--stem-wash);
}
.line.dragged {
  opacity: 0.5;
}
.line.in {
  background: var(--leaf-wash);
}
.line.before {
  box-shadow: inset 0 2px var(--stem);
}
.line.after {
  box-shadow: inset 0 -2px var(--stem);
}
</style>
