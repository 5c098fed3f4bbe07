<script lang="ts">
/** The sheets that are open, the topmost last: Escape is meant for that one. */
const open: object[] = []
</script>

<script setup lang="ts">
import Dialog from 'primevue/dialog'
import Button from 'primevue/button'
import { onBeforeUnmount, onMounted, ref, useId } from 'vue'
import { useUnsaved } from './unsaved.ts'
import { vFocus } from './vFocus.ts'

/** A dialog over the page: Escape and the button close it, and focus returns to where it was. What was written in it is not lost without a question. */
const {
  title,
  wide = false,
  widest = false,
  written = false,
  survives = false,
} = defineProps<{
  title: string
  wide?: boolean
  /** as wide as the page allows */
  widest?: boolean
  /** whether something was changed in it otherwise than by writing */
  written?: boolean
  /** whether what is written in it is kept, so that leaving it loses nothing */
  survives?: boolean
}>()
const emit = defineEmits<{ close: [] }>()
const id = useId()
const me = {}
const before = document.activeElement
const isWritten = ref(false)
/** What happens once what was written is left; undefined while nobody is about to leave. */
const leaving = ref<() => void>()
useUnsaved(isWritten, (leave) => (leaving.value = leave))

/** What narrows a list is no work that could be lost. */
function write({ target }: Event): void {
  const isSearch = target instanceof HTMLInputElement && target.type === 'search'
  if (!isSearch && !survives) isWritten.value = true
}
function close(): void {
  if (isWritten.value || written) leaving.value = () => undefined
  else emit('close')
}
function leave(): void {
  const go = leaving.value
  isWritten.value = false
  leaving.value = undefined
  emit('close')
  go?.()
}

const body = ref<HTMLElement>()
const fields = 'input:not(:disabled), textarea:not(:disabled), [role=combobox], li[tabindex="0"]'
/** Whoever opens a sheet begins at its first field, or the first line that can be moved, where none of it asked for the focus, or at the button that closes it. */
function enter(): void {
  if (body.value?.contains(document.activeElement)) return
  const first =
    body.value?.querySelector<HTMLElement>(fields) ??
    document.querySelector<HTMLElement>(`[aria-labelledby='${id}'] button`)
  first?.focus()
}

// Not the dialog’s own listening: a closed list in it would swallow the key, and every open dialog would hear it.
function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || event.isComposing || open.at(-1) !== me) return
  const at = event.target
  if (!(at instanceof Element)) return
  const inside = at.closest(`[aria-labelledby='${id}']`)
  if ((at !== document.body && !inside) || at.matches('[role=combobox][aria-expanded=true]')) return
  event.stopPropagation()
  if (leaving.value) leaving.value = undefined
  else close()
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
    :class="['over', { wide, widest }]"
    :aria-labelledby="id"
    @update:visible="close"
    :pt="{ transition: { onAfterEnter: enter } }"
  >
    <template #header
      ><h2 :id="id">{{ title }}</h2></template
    >
    <div ref="body" @input="write" @change="write"><slot /></div>
    <div v-if="leaving" class="leaving" role="alert">
      <span class="grow">What you wrote here is not kept yet.</span>
      <!-- The question is answered at once by Enter or Space, in favour of what was written. -->
      <Button severity="secondary" label="Leave it" @click="leave" /><Button
        v-focus
        label="Go on writing"
        @click="leaving = undefined"
      />
    </div>
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
.over.widest {
  width: 1180px;
}
.leaving {
  position: sticky;
  bottom: 0;
  display: flex;
  align-items: center;
  gap: 8px;
  margin-top: 14px;
  padding: 10px 0 2px;
  border-top: 1px solid var(--rule);
  background: var(--paper);
}
</style>
