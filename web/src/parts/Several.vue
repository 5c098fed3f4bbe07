<script setup lang="ts">
import { computed } from 'vue'
import ManySelect from './ManySelect.ts'

/** Several of a list that may be long: it narrows by typing, and of many only the ones in sight are made. */
const model = defineModel<readonly string[]>({ required: true })
const { options, label } = defineProps<{
  options: readonly { readonly id: string; readonly title: string }[]
  label: string
}>()
const chosen = computed({
  get: () => [...model.value],
  set: (ids: string[]) => (model.value = ids),
})
const isLong = computed(() => options.length > 80)
</script>

<template>
  <ManySelect
    v-model="chosen"
    append-to="#lists"
    :options="[...options]"
    option-label="title"
    option-value="id"
    :aria-label="label"
    placeholder="–"
    :filter="options.length > 14"
    filter-placeholder="find"
    auto-filter-focus
    :show-toggle-all="false"
    :virtual-scroller-options="isLong ? { itemSize: 30 } : undefined"
    fluid
  />
</template>
