<script setup lang="ts">
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { elementsOf } from './elements.ts'
import { readProse } from './prose.ts'

/** What somebody wrote, as it is meant: Markdown, with the items and people it names. */
const { text } = defineProps<{ text: string }>()
const vocabulary = useVocabulary()
const nameable = computed(() => ({
  people: vocabulary.vocabulary?.choices.person ?? [],
  codes: (vocabulary.vocabulary?.projects ?? []).map(({ code }) => code),
}))
const Read = (): ReturnType<typeof elementsOf> => elementsOf(readProse(text, nameable.value))
</script>

<template>
  <div class="prose"><Read /></div>
</template>

<style scoped>
.prose {
  overflow-wrap: anywhere;
}
.prose :deep(:is(p, ul, ol, blockquote, pre, table)) {
  margin: 0 0 8px;
}
.prose :deep(> :last-child) {
  margin-bottom: 0;
}
.prose :deep(:is(h1, h2, h3, h4, h5, h6)) {
  margin: 12px 0 4px;
  font: 600 1.05em/1.3 var(--serif);
}
.prose :deep(:is(ul, ol)) {
  padding-left: 22px;
}
.prose :deep(blockquote) {
  padding-left: 12px;
  border-left: 1px solid var(--rule);
  color: var(--quiet);
}
.prose :deep(pre) {
  overflow: auto;
  padding: 8px 10px;
  background: var(--wash);
  font-size: 12.5px;
}
.prose :deep(:is(th, td)) {
  text-align: left;
  padding: 3px 14px 3px 0;
  border-bottom: 1px solid var(--hair);
}
.prose :deep(a) {
  text-decoration: underline;
  text-underline-offset: 2px;
}
.prose :deep(.named) {
  font-weight: 600;
}
.prose :deep(hr) {
  border: 0;
  border-top: 1px solid var(--rule);
}
</style>
