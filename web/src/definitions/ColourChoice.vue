<script setup lang="ts">
/** One of the nine colours of the set; they are told apart with any colour vision, and have names to speak of them by. */
const model = defineModel<number>({ required: true })
const names = ['indigo', 'lake', 'teal', 'green', 'olive', 'ochre', 'rose', 'wine', 'plum']
const { name } = defineProps<{ name: string }>()
</script>

<template>
  <span class="colour label" :data-colour="model || undefined"
    ><select v-model.number="model" :aria-label="name">
      <option :value="0">none</option>
      <option v-for="(one, index) in names" :key="one" :value="index + 1">{{ one }}</option>
    </select></span
  >
</template>

<style scoped>
.colour {
  display: inline-flex;
  align-items: center;
  margin: 0;
}
.colour select {
  width: 84px;
  padding: 2px 4px;
}
</style>
