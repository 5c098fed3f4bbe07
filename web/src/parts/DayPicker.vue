<script setup lang="ts">
import DatePicker from 'primevue/datepicker'
import { computed } from 'vue'
import { clockText, momentAt } from './zone.ts'

/** A day as the API writes it (`2026-12-08`), or a moment (an instant of time, shown by the workspace's clocks). */
const model = defineModel<string | null>({ required: true })
const {
  label,
  moment = false,
  latest,
  small = false,
} = defineProps<{
  label: string
  moment?: boolean
  /** no day after this one can be chosen */
  latest?: string
  /** within a line of words */
  small?: boolean
}>()
const two = (number: number): string => String(number).padStart(2, '0')

/** The control knows dates of the browser's own zone only, so days and clock times go through it by their parts. */
const date = computed(() => {
  if (!model.value) return null
  return dateOf(moment ? clockText(new Date(model.value)) : model.value)
})

function dateOf(text: string): Date {
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = text.split(/[-T:]/).map(Number)
  return new Date(year, month - 1, day, hour, minute)
}

function take(value: unknown): void {
  if (!(value instanceof Date)) {
    model.value = null
    return
  }
  const day = `${value.getFullYear()}-${two(value.getMonth() + 1)}-${two(value.getDate())}`
  const time = `${two(value.getHours())}:${two(value.getMinutes())}`
  model.value = moment ? momentAt(`${day}T${time}`).toISOString() : day
}
</script>

<template>
  <DatePicker
    append-to="#lists"
    :model-value="date"
    :show-time="moment"
    hour-format="24"
    :aria-label="label"
    :max-date="latest ? dateOf(latest) : undefined"
    :size="small ? 'small' : undefined"
    show-icon
    icon-display="input"
    show-button-bar
    :fluid="!small"
    :show-on-focus="false"
    @update:model-value="take"
  />
</template>
