<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useNotes } from './notes.store.ts'

/** An address that is told only once, to be copied. */
const { address, label } = defineProps<{ address: string; label: string }>()
const notes = useNotes()

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(address)
  notes.show('well', 'The address is copied.')
}
</script>

<template>
  <div class="once">
    <InputText :model-value="address" readonly fluid :aria-label="label" />
    <Button label="Copy" :aria-label="`Copy: ${label}`" @click="copy" />
  </div>
</template>

<style scoped>
.once {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  margin: 10px 0;
}
</style>
