<script setup lang="ts">
import type { ItemAnswer } from '@bluestem/core/queries'
import AutoComplete from 'primevue/autocomplete'
import { ref } from 'vue'
import TypeMark from './TypeMark.vue'
import { findItems } from './findItems.ts'

/** An item chosen by words of its title, or by its ref; emptied, it is none. */
const { label, held = '' } = defineProps<{
  label: string
  /** the ref that is held */
  held?: string
}>()
const emit = defineEmits<{ chosen: [string | null] }>()
const words = ref<string | ItemAnswer>(held)
const found = ref<readonly ItemAnswer[]>([])

async function look(text: string): Promise<void> {
  found.value = await findItems(text, 8)
}
function take(item: ItemAnswer): void {
  words.value = item.ref
  emit('chosen', item.ref)
}
/** A ref may be written without choosing; nothing written is nothing held. */
function leave(): void {
  const text = typeof words.value === 'string' ? words.value.trim() : words.value.ref
  if (text === '' && held !== '') emit('chosen', null)
  else if (/^[A-Za-z][A-Za-z0-9]+\/\d+$/.test(text) && text.toUpperCase() !== held)
    emit('chosen', text.toUpperCase())
}
</script>

<template>
  <AutoComplete
    v-model="words"
    :suggestions="[...found]"
    option-label="title"
    :aria-label="label"
    placeholder="words of its title, or its ref"
    :delay="150"
    :min-length="2"
    append-to="#lists"
    fluid
    @complete="look($event.query.trim())"
    @option-select="take($event.value)"
    @blur="leave"
  >
    <template #option="{ option }">
      <TypeMark :mark="String(option.type.mark)" :title="option.type.title" />
      <span class="quiet nowrap">{{ option.ref }}</span>
      <span class="cut">{{ option.title }}</span>
    </template>
  </AutoComplete>
</template>
