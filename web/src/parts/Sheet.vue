<script setup lang="ts">
import { onMounted, ref } from 'vue'

/** A dialog over the page: Escape and the button close it, and focus returns to where it was. */
const { title, wide = false } = defineProps<{ title: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
const dialog = ref<HTMLDialogElement>()
onMounted(() => dialog.value?.showModal())
</script>

<template>
  <dialog
    ref="dialog"
    :class="{ wide }"
    aria-labelledby="sheet-title"
    @close="emit('close')"
    @cancel="emit('close')"
  >
    <header>
      <h2 id="sheet-title">{{ title }}</h2>
      <button class="plain quiet" type="button" aria-label="Close" @click="emit('close')">×</button>
    </header>
    <slot />
  </dialog>
</template>

<style scoped>
dialog {
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  background: var(--paper);
  color: var(--ink);
  padding: 20px 28px 24px;
  width: 480px;
  max-width: calc(100vw - 40px);
  max-height: calc(100vh - 60px);
  overflow: auto;
}
dialog.wide {
  width: 720px;
}
dialog::backdrop {
  background: var(--veil);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 14px;
}
h2 {
  font-size: 21px;
}
header button {
  font-size: 20px;
}
</style>
