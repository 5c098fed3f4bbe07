<script setup lang="ts">
import { computed } from 'vue'
import type { Property } from '@bluestem/core/queries'
import type { Chosen, NamedChoice } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import LabelPicker from './LabelPicker.vue'
import { clockText, momentAt } from './zone.ts'

/** The control for a value of a property; it emits what the API takes. `choices` narrows the ones offered, `project` to those it may use; retired ones show only where they are held. */
const { property, value, choices, name, project } = defineProps<{
  property: Property
  value: unknown
  choices?: readonly (Chosen | NamedChoice)[] | undefined
  name?: string
  project?: string
}>()
const emit = defineEmits<{ change: [unknown] }>()
const vocabulary = useVocabulary()

const held = (one: string): boolean => id.value === one || ids.value.includes(one)
const offered = computed((): readonly (Chosen & Partial<NamedChoice>)[] =>
  (choices ?? vocabulary.choices(property.handle)).filter(
    (one: Partial<NamedChoice> & Chosen) =>
      (!one.retired || held(one.id)) &&
      (!project || !one.project || one.project === project || held(one.id)),
  ),
)
const id = computed(() => (value as Chosen | null)?.id ?? (typeof value === 'string' ? value : ''))
const ids = computed(() =>
  Array.isArray(value)
    ? value.map((one: Chosen | string) => (typeof one === 'string' ? one : one.id))
    : [],
)
const local = computed(() => (typeof value === 'string' ? clockText(new Date(value)) : ''))
const text = (event: Event): string => (event.target as HTMLInputElement).value
const label = computed(() => name ?? property.title)

function toggle(one: string, on: boolean): void {
  emit('change', on ? [...ids.value, one] : ids.value.filter((id_) => id_ !== one))
}
</script>

<template>
  <select
    v-if="property.type.kind === 'choice' && property.type.domain !== 'item'"
    :aria-label="label"
    :value="id"
    @change="emit('change', text($event) || null)"
  >
    <option v-if="property.nullable" value="">–</option>
    <option v-for="choice in offered" :key="choice.id" :value="choice.id">
      {{ choice.family ? `${choice.family}: ` : '' }}{{ choice.title }}
    </option>
  </select>
  <select
    v-else-if="property.type.kind === 'boolean'"
    :aria-label="label"
    :value="value === null || value === undefined ? '' : String(value)"
    @change="emit('change', text($event) === '' ? null : text($event) === 'true')"
  >
    <option v-if="property.nullable" value="">–</option>
    <option value="true">yes</option>
    <option value="false">no</option>
  </select>
  <LabelPicker
    v-else-if="property.type.kind === 'array' && property.type.domain === 'label'"
    :held="ids"
    :choices="offered as NamedChoice[]"
    :name="label"
    @change="emit('change', $event)"
  />
  <details v-else-if="property.type.kind === 'array'" class="picks">
    <summary :aria-label="`${label}: ${ids.length} chosen`">
      {{
        offered
          .filter((one) => ids.includes(one.id))
          .map((one) => one.title)
          .join(', ') || '–'
      }}
    </summary>
    <div class="options" role="group" :aria-label="label">
      <label v-for="choice in offered" :key="choice.id"
        ><input
          type="checkbox"
          :checked="ids.includes(choice.id)"
          @change="toggle(choice.id, ($event.target as HTMLInputElement).checked)"
        />{{ ' ' }}<i v-if="choice.family">{{ choice.family }}</i> {{ choice.title }}</label
      >
    </div>
  </details>
  <input
    v-else-if="property.type.kind === 'number'"
    type="text"
    inputmode="decimal"
    :aria-label="label"
    :value="value ?? ''"
    @change="emit('change', text($event).replace(',', '.') || null)"
  />
  <input
    v-else-if="property.type.kind === 'date'"
    type="date"
    :aria-label="label"
    :value="value ?? ''"
    @change="emit('change', text($event) || null)"
  />
  <input
    v-else-if="property.type.kind === 'timestamp'"
    type="datetime-local"
    :aria-label="label"
    :value="local"
    @change="emit('change', text($event) ? momentAt(text($event)).toISOString() : null)"
  />
  <textarea
    v-else-if="property.long"
    :aria-label="label"
    :value="String(value ?? '')"
    @change="emit('change', text($event) || null)"
  />
  <input
    v-else
    type="text"
    :aria-label="label"
    :value="id || (typeof value === 'string' ? value : '')"
    :placeholder="property.type.kind === 'choice' ? 'YARD/128' : undefined"
    @change="emit('change', text($event) || null)"
  />
</template>
