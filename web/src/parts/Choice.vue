<script setup lang="ts" generic="Value extends string | number">
import type { ShownChoice } from '@bluestem/core/schema'
import Select from 'primevue/select'
import { computed } from 'vue'
import type { Domain } from '@bluestem/core/queries'
import ChoiceMark from './ChoiceMark.vue'

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
  options: readonly (Value | Offered)[]
  label: string
  none?: string | undefined
  /** what the choices are, where their marks stand beside them */
  domain?: Domain | undefined
  /** small, within a line of words */
  inline?: boolean
  disabled?: boolean
  invalid?: boolean
}>()

interface Offered {
  readonly id: Value | ''
  readonly title: string
  readonly mark?: ShownChoice['mark']
}

/** Lists of more than this narrow by typing. */
const few = 14
/** Of lists of more than this only the choices in sight are made. */
const many = 80

const offered = computed((): Offered[] => [
  ...(none === undefined ? [] : [{ id: '' as const, title: none }]),
  ...options.map((option) =>
    typeof option === 'object' ? option : { id: option, title: String(option) },
  ),
])
const chosen = computed(() => offered.value.find((entry) => entry.id === model.value))
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
  >
    <template v-if="domain" #option="{ option }: { option: Offered }"
      ><ChoiceMark v-if="option.id" :domain="domain" :choice="option" /><span>{{
        option.title
      }}</span></template
    >
    <template v-if="domain" #value
      ><ChoiceMark v-if="chosen?.id" :domain="domain" :choice="chosen" />{{
        chosen?.title ?? none
      }}</template
    >
  </Select>
</template>
