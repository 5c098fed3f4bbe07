<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import Checkbox from 'primevue/checkbox'
import Choice from '../../parts/Choice.vue'
import { computed } from 'vue'
import { fieldKind, inOrder, isComputed, type FormField } from '@bluestem/core/definitions'
import { fieldTitle } from '@bluestem/core/work'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** Whether a field must be filled, and what it waits for to be shown. */
const { entry, others, making, may } = defineProps<{
  entry: FormField
  others: readonly FormField[]
  making: boolean
  may: boolean
}>()
const emit = defineEmits<{ change: [FormField] }>()
const definitions = useDefinitions()
const vocabulary = useVocabulary()

/** The values another field may have to hold: its options, yes and no, or the priorities. */
function valuesOf(field: string): { value: string | boolean; title: string }[] {
  const own = definitions.document.fields[field]
  if (own && fieldKind(own.kind).values === 'boolean')
    return [
      { value: true, title: 'yes' },
      { value: false, title: 'no' },
    ]
  if (own?.options)
    return inOrder(own.options).map((option) => ({ value: option.id, title: option.title }))
  return field === 'priority'
    ? vocabulary.choices('priority').map((choice) => ({ value: choice.id, title: choice.title }))
    : []
}
const waitable = computed(() =>
  [
    ...new Set([
      ...others.map((other) => other.field),
      ...Object.keys(definitions.document.fields),
    ]),
  ].filter((field) => field !== entry.field && valuesOf(field).length > 0),
)
const computedField = computed(() =>
  isComputed(definitions.document.fields[entry.field]?.kind ?? 'text'),
)

function waitFor(field: string): void {
  const { shownWhen: _, ...rest } = entry
  emit(
    'change',
    field ? { ...rest, shownWhen: { field, values: [firstIn(valuesOf(field)).value] } } : rest,
  )
}
function toggle(value: string | boolean, on: boolean): void {
  const { shownWhen } = entry
  if (!shownWhen) return
  const values = on
    ? [...shownWhen.values, value]
    : shownWhen.values.filter((entry) => entry !== value)
  if (values.length > 0) emit('change', { ...entry, shownWhen: { ...shownWhen, values } })
}
</script>

<template>
  <div class="rules">
    <label v-if="making && !computedField" class="field"
      ><Checkbox
        :model-value="entry.required"
        binary
        :disabled="!may"
        @update:model-value="emit('change', { ...entry, required: $event })"
      />
      must be filled when an item is made</label
    >
    <label class="field"
      ><span>Shown</span
      ><Choice
        :model-value="entry.shownWhen?.field ?? ''"
        label="Shown"
        :disabled="!may"
        none="always"
        :options="
          waitable.map((field) => ({
            id: field,
            title: `only when ${fieldTitle(definitions.document, field)} is …`,
          }))
        "
        @update:model-value="waitFor($event)"
    /></label>
    <div v-if="entry.shownWhen" class="values" role="group" aria-label="one of">
      <label v-for="row in valuesOf(entry.shownWhen.field)" :key="String(row.value)"
        ><Checkbox
          :model-value="entry.shownWhen.values.includes(row.value)"
          binary
          :disabled="!may"
          @update:model-value="toggle(row.value, $event)"
        />
        {{ row.title }}</label
      >
    </div>
  </div>
</template>

<style scoped>
.rules {
  padding: 2px 0;
}
.values {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin-bottom: 8px;
}
</style>
