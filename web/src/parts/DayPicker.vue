<script setup lang="ts">
import DatePicker from 'primevue/datepicker'
import { computed } from 'vue'
import { spokenDay } from '@bluestem/core/calendar'
import { written } from './eventTarget.ts'
import { useSession } from '../session/session.store.ts'
import { clockText, dayIn, momentAt } from '../session/zone.ts'

/**
 * A day as the API writes it (`2026-12-08`), or a moment (an instant of time, shown by the workspace's clocks). A day may be written
 * in words as well: tomorrow, friday, +10 working days, 8 Dec.
 */
const model = defineModel<string | null>({ required: true })
const {
  label,
  moment = false,
  latest,
  small = false,
  placeholder,
} = defineProps<{
  label: string
  moment?: boolean
  /** no day after this one can be chosen */
  latest?: string
  /** within a line of words */
  small?: boolean
  /** what stands where nothing is chosen, in place of what may be written */
  placeholder?: string
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
const session = useSession()

/** What is written in words is read when it is left or entered. @returns whether it names a day */
function takeWords(text: string): boolean {
  if (moment || text.trim() === '') return false
  const day = spokenDay(text, dayIn(session.now))
  const isWithin = day !== undefined && (latest === undefined || day <= latest)
  if (isWithin && day !== model.value) model.value = day
  return isWithin
}
function enter(event: Event): void {
  const isEnter = event instanceof KeyboardEvent && event.key === 'Enter'
  if (isEnter && takeWords(written(event))) event.preventDefault()
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
    :placeholder="placeholder ?? (moment || small ? undefined : '8 Dec, friday, +10 working days')"
    @blur="takeWords($event.value)"
    @keydown="enter"
    @update:model-value="take"
  />
</template>
