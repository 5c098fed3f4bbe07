<script setup lang="ts">
/** One of the nine colours of the set; they are told apart with any colour vision, and named by their number. */
const model = defineModel<number>({ required: true })
const { name } = defineProps<{ name: string }>()
</script>

<template>
  <span class="colour label" :data-colour="model || undefined"><select v-model.number="model" :aria-label="name"><option :value="0">–</option><option v-for="one in 9" :key="one" :value="one">{{ one }}</option></select></span>
</template>

<style scoped>
.colour { display: inline-flex; align-items: center; margin: 0 } .colour select { width: 52px; padding: 2px 4px }
</style>
