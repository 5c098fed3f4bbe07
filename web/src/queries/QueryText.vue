<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { QueryError } from '@bluestem/core/queries'
import type { QueryTextEditor } from './editor.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'

/** The text of a query, with highlighting, completion and marks at what is wrong. The editor itself is loaded when first needed. */
const { errors, empty = "Everything. Narrow it: phase <> 'done' AND due < today()" } = defineProps<{
  errors: readonly QueryError[]
  /** what stands there while nothing does */ empty?: string
}>()
const text = defineModel<string>({ required: true })
const emit = defineEmits<{ ask: [] }>()
const vocabulary = useVocabulary()
const host = ref<HTMLElement>()
let editor: QueryTextEditor | undefined

onMounted(async () => {
  const { makeEditor } = await import('./editor.ts')
  if (!host.value || !vocabulary.vocabulary) return
  editor = makeEditor(
    host.value,
    text.value,
    vocabulary.vocabulary,
    empty,
    (changed) => {
      text.value = changed
    },
    () => emit('ask'),
  )
  editor.mark(errors)
})
onBeforeUnmount(() => editor?.close())
watch(text, (changed) => editor?.set(changed))
watch(
  () => errors,
  (found) => editor?.mark(found),
)
</script>

<template>
  <div ref="host" class="query-text" />
</template>

<style>
.query-text {
  border: 1px solid var(--frame);
  border-radius: var(--corner);
  background: var(--sheet);
  min-height: 66px;
}
</style>
