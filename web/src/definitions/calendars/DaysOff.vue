<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { X } from '@lucide/vue'
import type { DayOff } from '@bluestem/core/calendar'
import { written } from '../../parts/eventTarget.ts'
import DayPicker from '../../parts/DayPicker.vue'

/** The days off of a calendar, an entry a line: one day or several, of one year or of every year. */
const entries = defineModel<readonly DayOff[]>({ required: true })

function change(index: number, part: Partial<DayOff>): void {
  entries.value = entries.value.map((entry, at) =>
    at === index ? withoutEmpty({ ...entry, ...part }) : entry,
  )
}

/** What is left empty is no part of an entry. */
const withoutEmpty = ({ day, until, yearly, title }: DayOff): DayOff => ({
  day,
  ...(until ? { until } : {}),
  ...(yearly ? { yearly } : {}),
  title,
})

const add = (): void => {
  entries.value = [...entries.value, { day: '', title: '' }]
}
const remove = (index: number): void => {
  entries.value = entries.value.filter((_, at) => at !== index)
}
const nameOf = ({ title, day }: DayOff, index: number): string =>
  title || day || `day off ${index + 1}`
</script>

<template>
  <fieldset>
    <legend>Days off</legend>
    <div v-for="(entry, index) in entries" :key="index" class="row">
      <DayPicker
        class="day"
        small
        :model-value="entry.day || null"
        :label="`${nameOf(entry, index)}: from`"
        @update:model-value="change(index, { day: $event ?? '' })"
      /><span class="quiet">to</span
      ><DayPicker
        class="day"
        small
        :model-value="entry.until ?? null"
        :label="`${nameOf(entry, index)}: until`"
        @update:model-value="change(index, { until: $event ?? undefined })"
      /><InputText
        class="grow"
        size="small"
        maxlength="80"
        :model-value="entry.title"
        :aria-label="`${nameOf(entry, index)}: its name`"
        placeholder="its name"
        @change="change(index, { title: written($event) })"
      /><label class="nowrap"
        ><Checkbox
          binary
          :model-value="entry.yearly === true"
          @update:model-value="change(index, { yearly: $event === true || undefined })"
        />
        every year</label
      ><Button
        variant="text"
        severity="secondary"
        size="small"
        :aria-label="`Remove ${nameOf(entry, index)}`"
        @click="remove(index)"
        ><X class="icon"
      /></Button>
    </div>
    <Button variant="link" label="add a day off, or several" @click="add" />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
}
legend {
  padding: 0;
  color: var(--quiet);
  font-size: 13px;
}
.row {
  gap: 6px;
  margin: 4px 0;
}
.day :deep(input) {
  width: 108px;
}
</style>
