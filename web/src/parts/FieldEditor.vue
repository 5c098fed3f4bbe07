<script setup lang="ts">
import { computed } from 'vue'
import type { Property } from '@bluestem/core/queries'
import type { Chosen, NamedChoice } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'

/** The control for a value of a property; it emits what the API takes. `choices` narrows the ones offered. */
const { property, value, choices, name, long = false } = defineProps<{ property: Property; value: unknown; choices?: readonly (Chosen | NamedChoice)[] | undefined; name?: string; long?: boolean }>()
const emit = defineEmits<{ change: [unknown] }>()
const vocabulary = useVocabulary()

const offered = computed(() => choices ?? vocabulary.choices(property.handle))
const id = computed(() => (value as Chosen | null)?.id ?? (typeof value === 'string' ? value : ''))
const ids = computed(() => (Array.isArray(value) ? value.map((one: Chosen | string) => (typeof one === 'string' ? one : one.id)) : []))
const local = computed(() => (typeof value === 'string' ? new Date(new Date(value).getTime() - new Date(value).getTimezoneOffset() * 60_000).toISOString().slice(0, 16) : ''))
const text = (event: Event): string => (event.target as HTMLInputElement).value
const label = computed(() => name ?? property.title)

function toggle(one: string, on: boolean): void {
  emit('change', on ? [...ids.value, one] : ids.value.filter((id_) => id_ !== one))
}
</script>

<template>
  <select v-if="property.type.kind === 'choice' && property.type.domain !== 'item'" :aria-label="label" :value="id" @change="emit('change', text($event) || null)">
    <option v-if="property.nullable" value="">–</option>
    <option v-for="choice in offered" :key="choice.id" :value="choice.id">{{ choice.family ? `${choice.family}: ` : '' }}{{ choice.title }}</option>
  </select>
  <select v-else-if="property.type.kind === 'boolean'" :aria-label="label" :value="value === null || value === undefined ? '' : String(value)" @change="emit('change', text($event) === '' ? null : text($event) === 'true')">
    <option v-if="property.nullable" value="">–</option><option value="true">yes</option><option value="false">no</option>
  </select>
  <details v-else-if="property.type.kind === 'array'" class="several">
    <summary :aria-label="`${label}: ${ids.length} chosen`">{{ offered.filter((one) => ids.includes(one.id)).map((one) => one.title).join(', ') || '–' }}</summary>
    <div class="options" role="group" :aria-label="label">
      <label v-for="choice in offered" :key="choice.id"><input type="checkbox" :checked="ids.includes(choice.id)" @change="toggle(choice.id, ($event.target as HTMLInputElement).checked)"> <i v-if="choice.family">{{ choice.family }}</i> {{ choice.title }}</label>
    </div>
  </details>
  <input v-else-if="property.type.kind === 'number'" type="text" inputmode="decimal" :aria-label="label" :value="value ?? ''" @change="emit('change', text($event).replace(',', '.') || null)">
  <input v-else-if="property.type.kind === 'date'" type="date" :aria-label="label" :value="value ?? ''" @change="emit('change', text($event) || null)">
  <input v-else-if="property.type.kind === 'timestamp'" type="datetime-local" :aria-label="label" :value="local" @change="emit('change', text($event) ? new Date(text($event)).toISOString() : null)">
  <textarea v-else-if="long" :aria-label="label" :value="String(value ?? '')" @change="emit('change', text($event) || null)" />
  <input v-else type="text" :aria-label="label" :value="id || (typeof value === 'string' ? value : '')" :placeholder="property.type.kind === 'choice' ? 'YARD/128' : undefined" @change="emit('change', text($event) || null)">
</template>

<style scoped>
.several { position: relative; border: 1px solid var(--frame); border-radius: var(--corner); background: var(--sheet); min-height: 30px }
.several summary { padding: 4px 8px; cursor: pointer; list-style: none; overflow: hidden; text-overflow: ellipsis; white-space: nowrap }
.options { position: absolute; z-index: 12; left: -1px; right: -1px; min-width: 200px; background: var(--sheet); border: 1px solid var(--rule); max-height: 240px; overflow: auto; padding: 6px 10px; text-align: left }
.options label { display: block; padding: 2px 0; white-space: nowrap }
.options i { font: 600 10px var(--sans); letter-spacing: .06em; text-transform: uppercase; color: var(--quiet) }
</style>
