<script setup lang="ts">
import Button from 'primevue/button'
import { Plus } from '@lucide/vue'
import { cellFilter } from '@bluestem/core/dashboards'
import { certain } from '@bluestem/core/known'
import type { ItemAnswer } from '@bluestem/core/queries'
import type { ArrangedBoard, StandingAnswer, ViewContent } from '@bluestem/core/views'
import { computed, ref } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useVocabulary } from '../api/vocabulary.store.ts'
import StatusMark from '../parts/StatusMark.vue'
import { numberWords } from '../parts/words.ts'
import MakeLine from '../work/MakeLine.vue'
import BoardCard from './BoardCard.vue'
import { columnKey } from './boardCards.ts'

/** One column of a board: its name and count, its cards, and what is made in it. */
const { column, content } = defineProps<{
  column: StandingAnswer
  content: ViewContent
  /** the filter of the whole board */
  filter: ArrangedBoard['filter']
  /** why the card in hand may not be dropped here; empty where it may */
  refusal: string
  mayEdit: boolean
}>()
const cards = defineModel<ItemAnswer[]>('cards', { required: true })
const emit = defineEmits<{
  begin: [{ oldIndex?: number }]
  end: [{ from?: HTMLElement; to?: HTMLElement }]
  made: []
  more: []
  keys: [KeyboardEvent, ItemAnswer]
}>()
const vocabulary = useVocabulary()
const board = computed(() => certain(content.board, 'board'))
const property = computed(() => vocabulary.property(board.value.by))
const isMaking = ref(false)
const left = computed(() => column.count - cards.value.length)
</script>

<template>
  <section
    :class="['column', { refuse: refusal !== '' }]"
    :aria-label="column.shown?.title ?? 'none'"
  >
    <header>
      <StatusMark v-if="board.by === 'status' && column.shown" :status="column.shown" /><span
        v-else
        class="cut"
        >{{ column.shown?.title ?? `no ${property?.title.toLowerCase()}` }}</span
      ><span class="grow" /><b class="quiet">{{ numberWords(column.count) }}</b
      ><Button
        v-if="mayEdit"
        variant="text"
        size="small"
        :aria-label="`New items in ${column.shown?.title ?? 'none'}`"
        @click="isMaking = true"
        ><template #icon><Plus :size="16" :stroke-width="1.5" class="plus" /></template
      ></Button>
    </header>
    <MakeLine
      v-if="isMaking"
      class="make"
      stacked
      :filter="cellFilter(filter, property, column.value)"
      :place="column.shown?.title ?? 'this column'"
      @made="emit('made')"
      @close="isMaking = false"
    />
    <p v-if="refusal" class="why">{{ refusal }}</p>
    <VueDraggable
      v-model="cards"
      class="cards"
      :data-value="columnKey(column.value)"
      group="cards"
      :disabled="!mayEdit"
      :animation="0"
      :force-fallback="true"
      :fallback-on-body="true"
      :fallback-tolerance="3"
      :sort="content.order[0]?.by === 'position'"
      ghost-class="ghost"
      drag-class="dragging"
      @start="emit('begin', $event)"
      @end="emit('end', $event)"
    >
      <BoardCard
        v-for="item in cards"
        :key="item.ref"
        :item="item"
        :fields="board.cards"
        :by="board.by"
        :data-card="item.ref"
        tabindex="0"
        @keydown="emit('keys', $event, item)"
      />
    </VueDraggable>
    <Button
      variant="link"
      class="more"
      v-if="left > 0"
      @click="emit('more')"
      :label="`${numberWords(left)} more`"
    />
  </section>
</template>

<style scoped>
.column {
  border-left: 1px solid var(--hair);
  padding: 0 8px 20px;
  min-height: 100%;
  display: flex;
  flex-direction: column;
}
.column:first-child {
  border-left: 0;
  padding-left: 0;
}
header {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 2;
  display: flex;
  justify-content: space-between;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  font-weight: 600;
  margin: 0 -8px 8px;
  padding: 8px 10px;
}
.column:first-child header {
  margin-left: 0;
  padding-left: 0;
}
.cards {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 90px;
}
.refuse,
.refuse header {
  background: var(--russet-wash);
}
.why {
  color: var(--russet);
  font-size: 12.5px;
  margin: 0 0 6px;
}
.plus {
  color: var(--ink);
}
.make {
  padding: 0 0 8px;
  margin-bottom: 8px;
}
.more {
  margin-top: 8px;
  text-align: left;
}
:deep(.ghost) {
  opacity: 1;
  border-style: dashed;
  background: none;
}
:deep(.ghost) > * {
  visibility: hidden;
}
</style>
