<script setup lang="ts">
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { isWriting } from '../parts/isWriting.ts'
import Sheet from '../parts/Sheet.vue'

/** Every key that Bluestem listens to, shown on `?`. */
const keys = [
  { key: 'Ctrl K', does: 'finds an item, a question, a chapter, anything' },
  { key: 'J', does: 'jots titles down, from anywhere' },
  { key: 'F', does: 'files what is chosen of what was jotted' },
  { key: 'M', does: 'makes items that belong in a list, line by line' },
  { key: 'Ctrl Z', does: 'takes one’s last act back, then the one before' },
  { key: '?', does: 'shows this' },
  { key: 'Escape', does: 'closes what is open, the topmost first' },
  { key: '↑ ↓', does: 'goes from row to row; what is selected is told in the margin' },
  { key: 'Home End', does: 'goes to the first and the last row' },
  { key: 'Page Up Page Down', does: 'goes a page up or down in a list' },
  { key: 'Enter', does: 'opens what is selected' },
  { key: 'Space', does: 'chooses the row of a list, or leaves it out' },
  { key: 'Shift ↑ ↓', does: 'chooses rows on the way' },
  { key: 'Ctrl A', does: 'chooses all answers of a list' },
  { key: 'C', does: 'changes what is chosen, all of it at once' },
  { key: '← ↑ ↓ →', does: 'goes over the grid of a flow; Enter allows or forbids the move' },
  { key: 'Alt ← →', does: 'moves a card to the next column that its flow allows' },
  { key: 'Alt ↑ ↓', does: 'moves a rung of a ladder, a field of a form, a branch of a tree' },
  { key: '← →', does: 'folds and unfolds a branch of a tree' },
  { key: 'Alt → ←', does: 'moves a branch of a tree below the one before it, or out again' },
  { key: 'B', does: 'breaks a branch of a tree down, line by line' },
] as const
const isShown = ref(false)

function listen(event: KeyboardEvent): void {
  if (event.key !== '?' || isWriting(event.target)) return
  event.preventDefault()
  isShown.value = true
}
onMounted(() => window.addEventListener('keydown', listen))
onBeforeUnmount(() => window.removeEventListener('keydown', listen))
</script>

<template>
  <Sheet v-if="isShown" title="Keys" @close="isShown = false">
    <DataTable
      :value="[...keys]"
      data-key="key"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Keys' }"
    >
      <Column header="Key" class="nowrap">
        <template #body="{ data: row }">
          <kbd>{{ row.key }}</kbd>
        </template>
      </Column>
      <Column header="What it does" field="does" />
    </DataTable>
  </Sheet>
</template>

<style scoped>
kbd {
  font: 600 12.5px var(--sans);
}
</style>
