<script setup lang="ts" generic="Value extends string | number">
import Select from 'primevue/select'
import { computed } from 'vue'

/** One of a list, by its words. `none` stands first where nothing may be chosen, which is the empty text. */
const model = defineModel<Value | ''>({ required: true })
const {
  options,
  label,
  none,
  inline = false,
  disabled = false,
  invalid = false,
} = defineProps<{
  options: readonly (Value | { readonly id: Value; readonly title: string })[]
  label: string
  none?: string | undefined
  /** small, within a line of words */
  inline?: boolean
  disabled?: boolean
  invalid?: boolean
}>()

/** Lists of more than this narrow by typing. */
const few = 14
/** Of lists of more than this only the choices in sight are made. */
const many = 80

const offered = computed(() => [
  ...(none === undefined ? [] : [{ id: '' as const, title: none }]),
  ...options.map((one) => (typeof one === 'object' ? one : { id: one, title: String(one) })),
])
</script>

<template>
  <Select
    v-model="model"
    append-to="#lists"
    :options="offered"
    option-label="title"
    option-value="id"
    :placeholder="none"
    :aria-label="label"
    :disabled="disabled"
    :invalid="invalid"
    :filter="offered.length > few"
    filter-placeholder="find"
    auto-filter-focus
    :virtual-scroller-options="offered.length > many ? { itemSize: 28 } : undefined"
    :size="inline ? 'small' : undefined"
    :fluid="!inline"
  />
</template>
