<script setup lang="ts">
import { asChoice, type ShownChoice } from '@bluestem/core/schema'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed } from 'vue'
import type { Property, NamedChoice } from '@bluestem/core/queries'
import { written } from './eventTarget.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from './Choice.vue'
import DayPicker from './DayPicker.vue'
import FindItem from './FindItem.vue'
import LabelPicker from './LabelPicker.vue'
import Several from './Several.vue'

/** The control for a value of a property; it emits what the API takes. `choices` narrows the ones offered, `project` to those it may use; retired ones show only where they are held. */
const { property, value, choices, name, project } = defineProps<{
  property: Property
  value: unknown
  choices?: readonly (ShownChoice | NamedChoice)[] | undefined
  name?: string
  project?: string
}>()
const emit = defineEmits<{ change: [unknown] }>()
const vocabulary = useVocabulary()

type Offered = ShownChoice & Partial<NamedChoice>
const held = (entry: string): boolean => id.value === entry || ids.value.includes(entry)
/** Whether a choice is one of the project's, or of no project in particular. */
const isOf = (entry: Offered): boolean => {
  const owners = entry.projects ?? (entry.project ? [entry.project] : undefined)
  return !project || !owners || owners.includes(project)
}
const offered = computed((): readonly Offered[] =>
  (choices ?? vocabulary.choices(property.handle)).filter(
    (choice: Offered) => held(choice.id) || (!choice.retired && isOf(choice)),
  ),
)
// Labels are offered by the vocabulary alone, which names them whole.
const labels = computed(() => offered.value as readonly NamedChoice[])
const options = computed(() =>
  offered.value.map((entry) => ({
    id: entry.id,
    title: entry.family ? `${entry.family}: ${entry.title}` : entry.title,
    mark: entry.mark ?? null,
  })),
)
const id = computed(() => asChoice(value)?.id ?? (typeof value === 'string' ? value : ''))
const ids = computed(() =>
  Array.isArray(value)
    ? value.map((entry: ShownChoice | string) => (typeof entry === 'string' ? entry : entry.id))
    : [],
)
const label = computed(() => name ?? property.title)
const none = computed(() => (property.nullable ? '–' : undefined))
const yesOrNo = [
  { id: 'true', title: 'yes' },
  { id: 'false', title: 'no' },
]
const isYes = computed(() => (value === null || value === undefined ? '' : String(value)))
</script>

<template>
  <FindItem
    v-if="property.type.kind === 'choice' && property.type.domain === 'item'"
    :label="label"
    :held="id"
    @chosen="emit('change', $event)"
  />
  <Choice
    v-else-if="property.type.kind === 'choice'"
    :model-value="id"
    :label="label"
    :none="none"
    :options="options"
    :domain="property.type.domain"
    @update:model-value="emit('change', $event || null)"
  />
  <Choice
    v-else-if="property.type.kind === 'boolean'"
    :model-value="isYes"
    :label="label"
    :none="none"
    :options="yesOrNo"
    @update:model-value="emit('change', $event === '' ? null : $event === 'true')"
  />
  <LabelPicker
    v-else-if="property.type.kind === 'array' && property.type.domain === 'label'"
    :held="ids"
    :choices="labels"
    :name="label"
    @change="emit('change', $event)"
  />
  <Several
    v-else-if="property.type.kind === 'array'"
    :model-value="ids"
    :label="label"
    :options="options"
    @update:model-value="emit('change', $event)"
  />
  <InputText
    v-else-if="property.type.kind === 'number'"
    inputmode="decimal"
    :aria-label="label"
    :model-value="String(value ?? '')"
    fluid
    @change="emit('change', written($event).replace(',', '.') || null)"
  />
  <DayPicker
    v-else-if="property.type.kind === 'date' || property.type.kind === 'timestamp'"
    :model-value="typeof value === 'string' ? value : null"
    :moment="property.type.kind === 'timestamp'"
    :label="label"
    @update:model-value="emit('change', $event)"
  />
  <Textarea
    v-else-if="property.long"
    :aria-label="label"
    :model-value="String(value ?? '')"
    fluid
    @change="emit('change', written($event) || null)"
  />
  <InputText
    v-else
    :aria-label="label"
    :model-value="typeof value === 'string' ? value : ''"
    fluid
    @change="emit('change', written($event) || null)"
  />
</template>
