<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { messageOf } from '../api/http.ts'
import Choice from '../parts/Choice.vue'
import { vFocus } from '../parts/vFocus.ts'

/** A line for making items at speed: a type, a title, Enter, the next. What refuses one leaves its title where it is. */
const { label, types, make } = defineProps<{
  /** what the title is the title of */
  label: string
  types: readonly ShownChoice[]
  make: (title: string) => Promise<void>
}>()
const type = defineModel<string>('type', { required: true })
const emit = defineEmits<{ close: [] }>()
const title = ref('')
const refusal = ref('')
const busy = ref(false)

async function add(): Promise<void> {
  if (title.value.trim() === '' || busy.value) return
  busy.value = true
  refusal.value = ''
  try {
    await make(title.value)
    title.value = ''
  } catch (error) {
    refusal.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <form class="add" @submit.prevent="add" @keydown.escape.stop="emit('close')">
    <slot />
    <Choice v-model="type" :label="`Type of ${label}`" inline domain="type" :options="types" />
    <InputText
      v-model="title"
      v-focus
      size="small"
      fluid
      maxlength="300"
      :aria-label="`Title of ${label}`"
      placeholder="its title, then Enter for the next"
    />
    <span v-if="refusal" class="warn refusal" role="alert" :title="refusal">{{ refusal }}</span>
    <slot name="beside" :title="title" />
    <Button variant="link" label="done" @click="emit('close')" />
  </form>
</template>

<style scoped>
.add {
  display: flex;
  gap: 8px;
  align-items: center;
}
.add > * {
  flex: none;
}
.add > input {
  flex: 1;
  min-width: 0;
}
.refusal {
  flex: 0 1 auto;
  max-width: 50%;
}
</style>
