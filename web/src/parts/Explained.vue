<script setup lang="ts">
import { computed } from 'vue'
import Meaning from './Meaning.vue'
import { meanings, type Word } from './meanings.ts'

/** A line in which words between stars open what they mean: `*phase*`, or `*phases|phase*` where it stands in another form. */
const { text } = defineProps<{ text: string }>()

interface Piece {
  readonly shown: string
  readonly word?: Word
}
const isWord = (text: string): text is Word => text in meanings
function pieceOf(part: string, index: number): Piece {
  const [shown = '', key = shown] = part.split('|')
  return index % 2 === 1 && isWord(key) ? { shown, word: key } : { shown }
}
const pieces = computed(() => text.split('*').map(pieceOf))
</script>

<template>
  <span
    ><template v-for="(piece, index) in pieces" :key="index"
      ><Meaning v-if="piece.word" :word="piece.word">{{ piece.shown }}</Meaning
      ><template v-else>{{ piece.shown }}</template></template
    ></span
  >
</template>
