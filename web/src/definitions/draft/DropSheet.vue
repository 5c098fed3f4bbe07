<script setup lang="ts">
import type { DraftAnswer } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import { computed } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** Asks before a draft is dropped, and says whose changes go with it. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const authors = computed(() => {
  const counts = new Map<string, number>()
  for (const { by } of draft.changes) counts.set(by, (counts.get(by) ?? 0) + 1)
  return [...counts].map(([by, count]) => `${counted(count, 'change')} by ${by}`).join(', ')
})

/** The sheet closes first: it goes with the draft, and could not say so any more. */
function drop(): void {
  emit('close')
  void definitions.drop()
}
</script>

<template>
  <Sheet :title="`Drop “${draft.title}”?`" @close="emit('close')">
    <p>{{ authors }} {{ draft.changes.length === 1 ? 'goes' : 'go' }} with it.</p>
    <p class="quiet">It can be taken back for 30 days: at once, or from the chapter Editions.</p>
    <div class="acts">
      <Button autofocus label="Drop it" @click="drop" /><Button
        severity="secondary"
        label="Keep it"
        @click="emit('close')"
      />
    </div>
  </Sheet>
</template>
