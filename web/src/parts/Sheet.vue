<script lang="ts">
/** The sheets that are open, the topmost last: Escape is meant for that one. */
const open: object[] = []
</script>

<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { onBeforeUnmount, onMounted, useId } from 'vue'

/** A dialog over the page: Escape and the button close it, and focus returns to where it was. */
const { title, wide = false } = defineProps<{ title: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
const id = useId()
const me = {}
const before = document.activeElement

// Not the dialog’s own listening: a closed list in it would swallow the key, and every open dialog would hear it.
function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || event.isComposing || open.at(-1) !== me) return
  const at = event.target as Element
  const inside = at.closest(`[aria-labelledby='${id}']`)
  if ((at !== document.body && !inside) || at.matches('[role=combobox][aria-expanded=true]')) return
  event.stopPropagation()
  emit('close')
}
onMounted(() => {
  open.push(me)
  window.addEventListener('keydown', escape, true)
})
onBeforeUnmount(() => {
  open.splice(open.indexOf(me), 1)
  window.removeEventListener('keydown', escape, true)
  // Taken away with its owner, the dialog has no moment of its own to give the focus back.
  if (before instanceof HTMLElement) before.focus()
})
</script>

<template>
  <Dialog
    visible
    modal
    :draggable="false"
    :close-on-escape="false"
    :class="['over', { wide }]"
    :aria-labelledby="id"
    @update:visible="emit('close')"
  >
    <template #header
      ><h2 :id="id">{{ title }}</h2></template
    >
    <slot />
  </Dialog>
</template>

<style>
.over {
  width: 480px;
  max-width: calc(100vw - 40px);
  max-height: calc(100vh - 60px);
}
.over.wide {
  width: 720px;
}
.over h2 {
  font-size: 21px;
}
</style>
