<script setup lang="ts">
import ProgressBar from 'primevue/progressbar'
import { counted, numberWords } from '../parts/words.ts'

/** How many rows of a file are done. */
defineProps<{ done: number; rows: number }>()
</script>

<template>
  <div>
    <ProgressBar
      :value="Math.round((100 * done) / Math.max(1, rows))"
      :show-value="false"
      aria-label="How far it is"
    />
    <p class="quiet">{{ numberWords(done) }} of {{ counted(rows, 'row') }}</p>
  </div>
</template>

<style scoped>
p {
  margin: 4px 0 12px;
}
</style>
