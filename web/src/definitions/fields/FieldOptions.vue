<script setup lang="ts">
import { elementAt } from '@bluestem/core/known'
import { ArrowUp, X } from '@lucide/vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { ref } from 'vue'
import type { Option } from '@bluestem/core/definitions'
import { written } from '../../parts/eventTarget.ts'
import ColourChoice from '../chapter/ColourChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import type { EditedOption } from './writtenField.ts'

/** The options of a choice: in their order, each with its colour; those that were published are retired instead of taken away. */
const model = defineModel<EditedOption[]>({ required: true })
const { published } = defineProps<{ published: Readonly<Record<string, Option>> }>()
const definitions = useDefinitions()
const fresh = ref('')

function addOption(): void {
  const title = fresh.value.trim()
  if (title)
    model.value = [
      ...model.value,
      { id: definitions.newId('option'), title, order: '', description: '' },
    ]
  fresh.value = ''
}
const change = (index: number, part: Partial<EditedOption>): void => {
  model.value = model.value.map((entry, at) => (at === index ? { ...entry, ...part } : entry))
}
const swap = (index: number): void => {
  model.value = model.value.map((entry, at) =>
    at === index - 1
      ? elementAt(model.value, index)
      : at === index
        ? elementAt(model.value, index - 1)
        : entry,
  )
}
defineExpose({ addOption })
</script>

<template>
  <div class="field">
    <span>Options, in their order</span>
    <div v-for="(option, index) in model" :key="option.id" class="row option">
      <ColourChoice
        :model-value="option.colour ?? 0"
        :name="`Colour of ${option.title}`"
        @update:model-value="change(index, { colour: $event })"
      />
      <InputText
        :model-value="option.title"
        :class="{ gone: option.retired }"
        :aria-label="`Option ${index + 1}`"
        maxlength="80"
        required
        @input="change(index, { title: written($event) })"
        fluid
      />
      <InputText
        :model-value="option.description"
        :aria-label="`When to use option ${index + 1}`"
        placeholder="when to use it"
        maxlength="2000"
        @input="change(index, { description: written($event) })"
        fluid
      />
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :disabled="index === 0"
        :aria-label="`${option.title} further up`"
        @click="swap(index)"
      >
        <ArrowUp class="icon" />
      </Button>
      <Button
        variant="link"
        class="act-word"
        v-if="published[option.id]"
        @click="change(index, { retired: !option.retired })"
        :label="option.retired ? 'bring back' : 'retire'"
      />
      <Button
        variant="text"
        severity="secondary"
        size="small"
        class="act-word"
        v-else
        :aria-label="`Take ${option.title} away`"
        @click="model = model.filter((_, at) => at !== index)"
      >
        <X class="icon" />
      </Button>
    </div>
    <div class="row option">
      <InputText
        v-model="fresh"
        aria-label="New option"
        placeholder="add an option"
        maxlength="80"
        @keydown.enter.prevent="addOption"
        fluid
      /><Button variant="link" @click="addOption" label="add" />
    </div>
  </div>
</template>

<style scoped>
.option {
  margin-bottom: 4px;
}
.act-word {
  width: 66px;
}
.gone {
  text-decoration: line-through;
  color: var(--quiet);
}
</style>
