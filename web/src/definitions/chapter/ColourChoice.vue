<script setup lang="ts">
import { computed } from 'vue'
import { labelColours } from '@bluestem/core/labels'
import Choice from '../../parts/Choice.vue'
/** One of the nine colours of the set; they are told apart with any colour vision, and have names to speak of them by. */
const model = defineModel<number>({ required: true })
const { name } = defineProps<{ name: string }>()
const colours = labelColours.map((title, index) => ({ id: index + 1, title, mark: index + 1 }))
const colour = computed({
  get: (): number | '' => model.value || '',
  set: (chosen) => (model.value = chosen || 0),
})
</script>

<template>
  <Choice
    v-model="colour"
    class="colour"
    :label="name"
    none="none"
    :options="colours"
    domain="label"
    inline
  />
</template>

<style scoped>
.colour {
  min-width: 104px;
}
</style>
