<script setup lang="ts">
/** One click shows only what was not used for so long. */
const model = defineModel<boolean>({ required: true })
/** how many days without use are long */
defineProps<{ days: number }>()
</script>

<template>
  <button class="plain" type="button" :aria-pressed="model" @click="model = !model">
    {{ model ? 'show all again' : `unused for ${days} days` }}
  </button>
</template>
