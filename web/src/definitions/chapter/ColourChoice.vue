<script setup lang="ts">
import { computed } from 'vue'
import Choice from '../../parts/Choice.vue'
/** One of the nine colours of the set; they are told apart with any colour vision, and have names to speak of them by. */
const model = defineModel<number>({ required: true })
const names = ['indigo', 'lake', 'teal', 'green', 'olive', 'ochre', 'rose', 'wine', 'plum']
const { name } = defineProps<{ name: string }>()
const colours = names.map((title, index) => ({ id: index + 1, title }))
const colour = computed({
  get: (): number | '' => model.value || '',
  set: (chosen) => (model.value = chosen || 0),
})
</script>

<template>
  <span class="colour label" :data-colour="model || undefined"
    ><Choice v-model="colour" :label="name" none="none" :options="colours" inline
  /></span>
</template>

<style scoped>
.colour {
  display: inline-flex;
  align-items: center;
  margin: 0;
}
.colour :deep(.p-select) {
  min-width: 96px;
}
</style>
