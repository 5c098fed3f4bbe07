<script setup lang="ts">
import Button from 'primevue/button'
/** One click shows only what was not used for so long. */
const model = defineModel<boolean>({ required: true })
/** how many days without use are long */
defineProps<{ days: number }>()
</script>

<template>
  <Button
    variant="link"
    :aria-pressed="model"
    @click="model = !model"
    :label="model ? 'show all again' : `unused for ${days} days`"
  />
</template>
