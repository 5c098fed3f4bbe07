<script setup lang="ts">
import Button from 'primevue/button'
import Popover from 'primevue/popover'
import { ref, useId } from 'vue'
import { meanings, type Word } from './meanings.ts'

/** A word with a dotted line, which opens what it means. */
const { word } = defineProps<{ word: Word }>()
const id = useId()
const isOpen = ref(false)
const meaning = ref<InstanceType<typeof Popover>>()
</script>

<template>
  <Button
    variant="text"
    class="meaning"
    :aria-label="`What ${word} means`"
    :aria-expanded="isOpen"
    :aria-controls="isOpen ? id : undefined"
    @click="meaning?.toggle($event)"
    ><slot>{{ word }}</slot></Button
  ><Popover
    :id="id"
    ref="meaning"
    append-to="#lists"
    :aria-label="`What ${word} means`"
    class="meaning-told"
    @show="isOpen = true"
    @hide="isOpen = false"
    ><p>
      <b>{{ word }}</b> {{ meanings[word] }}
    </p></Popover
  >
</template>

<style>
.meaning.p-button {
  display: inline;
  padding: 0;
  border: 0;
  min-height: 0;
  font: inherit;
  color: inherit;
  text-decoration: underline dotted 1px;
  text-underline-offset: 3px;
  cursor: help;
}
.meaning.p-button:hover {
  color: var(--stem);
  background: none;
}
.meaning-told {
  max-width: 340px;
}
.meaning-told p {
  margin: 0;
}
</style>
