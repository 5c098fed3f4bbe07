<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { BulkAnswer, BulkChange, BulkItems } from '@bluestem/core/bulk'
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import { computed, ref } from 'vue'
import { call } from '../api/http.ts'
import { useNotes } from '../parts/notes.store.ts'
import { counted, numberWords } from '../parts/words.ts'
import { carryOut, outcomeWords, undo } from './many.ts'

/** Carries a change of many items out: how far it is, and the way to cancel it; what it did can be undone from the note. */
const { items, change, total, changed, title } = defineProps<{
  items: BulkItems
  change: BulkChange
  /** how many items the preview looked at, and how many of them it would change */
  total: number
  changed: number
  title: string
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const notes = useNotes()
const bulk = ref<BulkAnswer>()
const share = computed(() =>
  bulk.value ? Math.round((100 * bulk.value.done) / Math.max(1, bulk.value.total)) : 0,
)
const look = (now: BulkAnswer): void => void (bulk.value = now)

async function begin(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    const over = await carryOut(items, change, total, look)
    const back = { title: 'Undo', run: () => void takeBack(over.id) }
    notes.show('well', outcomeWords(over), over.undoable ? back : undefined)
  })
  bulk.value = undefined
  if (wentWell) emit('done')
}

async function takeBack(id: string): Promise<void> {
  await notes.attempt(async () => {
    const over = await undo(id, () => undefined)
    notes.show('well', `Undone: ${outcomeWords(over)}`)
  })
}

async function cancel(): Promise<void> {
  await notes.attempt(async () => {
    await call('DELETE /bulk/{id}', { params: { id: certain(bulk.value, 'change under way').id } })
  })
}
</script>

<template>
  <div v-if="bulk" class="going" role="status">
    <ProgressBar :value="share" :show-value="false" aria-label="How far it is" />
    <p>
      {{ numberWords(bulk.done) }} of {{ counted(bulk.total, 'item') }}
      <span class="quiet">{{
        bulk.state === 'taking back' ? 'taking back what was done' : ''
      }}</span>
    </p>
    <div class="acts">
      <Button
        severity="secondary"
        label="Cancel, and take back what was done"
        :disabled="bulk.state === 'taking back'"
        @click="cancel"
      />
    </div>
  </div>
  <div v-else class="acts">
    <Button :disabled="changed === 0" :label="title" @click="begin" />
    <Button severity="secondary" label="Not now" @click="emit('close')" />
  </div>
</template>
