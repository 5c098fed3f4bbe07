<script setup lang="ts">
import { useNotes, type Note } from './notes.store.ts'

const notes = useNotes()

function runAct(note: Note): void {
  note.act?.run()
  notes.dismiss(note.id)
}
</script>

<template>
  <div class="notes" aria-live="polite" role="status">
    <p v-for="note in notes.notes" :key="note.id" :class="['note', note.kind]">
      <span>{{ note.text }}</span>
      <button v-if="note.act" class="plain" type="button" @click="runAct(note)">
        {{ note.act.title }}
      </button>
      <button
        class="plain quiet"
        type="button"
        aria-label="Dismiss"
        @click="notes.dismiss(note.id)"
      >
        ×
      </button>
    </p>
  </div>
</template>

<style scoped>
.notes {
  position: fixed;
  left: var(--edge);
  bottom: 18px;
  z-index: 40;
  display: flex;
  flex-direction: column;
  gap: 6px;
  max-width: 640px;
}
.note {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  padding: 8px 14px;
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.note.warn {
  border-color: var(--russet);
  background: var(--russet-wash);
}
</style>
