<script setup lang="ts">
import Checkbox from 'primevue/checkbox'
import { useId } from 'vue'

/** Several of a list that is short enough to be read at once. */
const model = defineModel<readonly string[]>({ required: true })
defineProps<{
  legend: string
  options: readonly { readonly id: string; readonly title: string }[]
}>()
const id = useId()
</script>

<template>
  <fieldset class="field">
    <legend>{{ legend }}</legend>
    <label v-for="one in options" :key="one.id" class="tick"
      ><Checkbox v-model="model" :value="one.id" :input-id="`${id}-${one.id}`" />
      {{ one.title }}</label
    >
  </fieldset>
</template>
