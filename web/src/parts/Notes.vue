<script setup lang="ts">
import Button from 'primevue/button'
import Toast from 'primevue/toast'
import { onBeforeUnmount, onMounted } from 'vue'
import { isWriting } from './isWriting.ts'
import { useNotes, type Note } from './notes.store.ts'

const notes = useNotes()

// A note is told when there is time; only a refusal may break in. The library would have every one break in, and its button would claim the focus.
const parts = {
  root: {
    style: { left: 'var(--edge)', bottom: '18px', width: 'auto', maxWidth: '640px' },
  },
  message: ({ props }: { props: { message: Note } }) =>
    props.message.severity === 'warn' ? {} : { role: 'status', 'aria-live': 'polite' },
  closeButton: { autofocus: null, 'aria-label': 'Dismiss' },
}

// Only notes are shown; the library types them as its own messages.
const noteOf = (message: unknown): Note => message as Note

/** Ctrl Z takes one’s last act back, but where it is meant for what is being written. */
function listen(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.shiftKey || event.key !== 'z') return
  if (isWriting(event.target)) return
  event.preventDefault()
  void notes.undoLast()
}
onMounted(() => window.addEventListener('keydown', listen))
onBeforeUnmount(() => window.removeEventListener('keydown', listen))
</script>

<template>
  <Toast
    position="bottom-left"
    :pt="parts"
    @close="notes.dismiss(noteOf($event.message))"
    @life-end="notes.dismiss(noteOf($event.message))"
  >
    <template #message="{ message }">
      <span class="grow">{{ noteOf(message).detail }}</span>
      <Button
        v-if="noteOf(message).act"
        variant="link"
        :label="noteOf(message).act?.title"
        @click="notes.run(noteOf(message))"
      />
    </template>
  </Toast>
</template>
