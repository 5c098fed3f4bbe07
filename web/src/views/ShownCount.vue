<script setup lang="ts">
import Button from 'primevue/button'
import {
  notShown,
  type ArrangedBoard,
  type ArrangedList,
  type ViewContent,
} from '@bluestem/core/views'
import { computed } from 'vue'
import { numberWords } from '../parts/words.ts'

/** How many of the answers a view shows, and where the others are. */
const { arranged, content } = defineProps<{
  arranged: ArrangedList | ArrangedBoard
  content: ViewContent
  /** how many answer, where the list was asked */
  total: number
}>()
const emit = defineEmits<{ showFinished: [] }>()
const board = computed(() => ('columns' in arranged ? arranged : undefined))
const left = computed(() =>
  board.value && content.board ? notShown(board.value, content.board.finishedWithin) : undefined,
)
</script>

<template>
  <p class="shown" aria-live="polite">
    <template v-if="left && board"
      ><b>{{ numberWords(board.shown) }}</b> of {{ numberWords(arranged.total) }} shown ·
      <span :class="{ warn: left.count > 0 }">{{ left.words }}</span>{{ ' '
      }}<Button
        variant="link"
        v-if="board.finishedLongAgo"
        @click="emit('showFinished')"
        label="show them"
    /></template>
    <template v-else
      ><b>{{ numberWords(total) }}</b> {{ arranged.total === 1 ? 'answer' : 'answers' }}, all
      shown</template
    >
    <span v-if="arranged.cannotTell" class="quiet">
      · {{ numberWords(arranged.cannotTell) }} can’t be told</span
    >
  </p>
</template>

<style scoped>
.shown {
  border-bottom: 1px solid var(--hair);
  padding-bottom: 7px;
  font-size: 13.5px;
}
</style>
