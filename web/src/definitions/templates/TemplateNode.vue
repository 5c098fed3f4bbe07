<script setup lang="ts">
import { X } from '@lucide/vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { written } from '../../parts/eventTarget.ts'
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed } from 'vue'
import { formOf } from '@bluestem/core/definitions'
import { templateTypes } from '@bluestem/core/templates'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import FieldEditor from '../../parts/FieldEditor.vue'
import type { TemplateNode } from './template.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** One item of a template: its type, its texts, and a value for any field; days may be counted from the day it is used. */
const node = defineModel<TemplateNode>({ required: true })
const { rulebook, name } = defineProps<{ rulebook: string; name: string }>()
const definitions = useDefinitions()
const vocabulary = useVocabulary()
const types = computed(() => templateTypes(definitions.published, rulebook))
/** what a template may give: the fields on either form of the type, and what every item has */
const givable = computed(() => {
  const onForms = [
    ...formOf(definitions.published, rulebook, node.value.type, 'item'),
    ...formOf(definitions.published, rulebook, node.value.type, 'make'),
  ].map((entry) => definitions.published.fields[entry.field]?.handle ?? entry.field)
  return [
    ...new Set(['priority', 'labels', 'components', 'assignee', 'estimate', ...onForms]),
  ].flatMap((handle) => {
    const property = vocabulary.property(handle)
    return property &&
      !property.computedBy &&
      !['parent', 'type', 'title', 'status'].includes(handle)
      ? [property]
      : []
  })
})
const given = computed(() => [...Object.keys(node.value.values), ...Object.keys(node.value.fields)])
const spare = computed(() => givable.value.filter((entry) => !given.value.includes(entry.handle)))
const rows = computed(() =>
  given.value.map((handle) => ({
    handle,
    property: vocabulary.property(handle),
    value: node.value.values[handle] ?? node.value.fields[handle],
  })),
)
const titleOfType = (id: string): string => definitions.published.types[id]?.title ?? 'gone'
const offeredTypes = computed(() => {
  const { type } = node.value
  const offered = types.value.map((id) => ({ id, title: titleOfType(id) }))
  return types.value.includes(type)
    ? offered
    : [{ id: type, title: `${titleOfType(type)} (not offered)` }, ...offered]
})
const isRelative = (value: unknown): value is { in: number; unit: 'days' | 'working days' } =>
  typeof value === 'object' && value !== null && 'unit' in value

function set(handle: string, value: unknown): void {
  const part =
    (vocabulary.property(handle)?.builtIn ?? handle in node.value.values) ? 'values' : 'fields'
  const { [handle]: _, ...rest } = node.value[part]
  node.value = {
    ...node.value,
    [part]: value === undefined ? rest : { ...node.value[part], [handle]: value },
  }
}
const begins = (handle: string): unknown => {
  const kind = vocabulary.property(handle)?.type.kind
  return kind === 'date'
    ? { in: 10, unit: 'working days' }
    : kind === 'array'
      ? []
      : kind === 'boolean'
        ? false
        : null
}
</script>

<template>
  <div>
    <div class="row">
      <label class="field grow"
        ><span>Title; [[vessel]] is a blank to fill</span
        ><InputText
          :model-value="node.title"
          required
          maxlength="300"
          @input="node = { ...node, title: written($event) }"
          fluid
      /></label>
      <label class="field"
        ><span>Type</span
        ><Choice
          :model-value="node.type"
          :label="`Type of ${name}`"
          :options="offeredTypes"
          @update:model-value="node = { ...node, type: $event }"
      /></label>
    </div>
    <div v-for="{ handle, property, value } in rows" :key="handle" class="row value">
      <span class="name">{{ property?.title ?? `${handle} (gone)` }}</span>
      <template v-if="isRelative(value)"
        ><InputNumber
          class="count"
          :model-value="value.in"
          :aria-label="`How many, ${property?.title ?? handle}`"
          :use-grouping="false"
          @update:model-value="set(handle, { ...value, in: Math.round($event ?? 0) })" /><Choice
          :model-value="value.unit"
          :label="`What is counted, ${property?.title ?? handle}`"
          :options="[
            { id: 'days', title: 'days' },
            { id: 'working days', title: 'working days' },
          ]"
          inline
          @update:model-value="set(handle, { ...value, unit: $event })" /><span class="quiet"
          >from the day it is used</span
        ><Button variant="link" @click="set(handle, null)" label="a set day"
      /></template>
      <template v-else-if="property"
        ><FieldEditor
          :property="property"
          :value="value"
          :name="`${property.title} of ${name}`"
          @change="set(handle, $event)" /><Button
          variant="link"
          v-if="property.type.kind === 'date'"
          @click="set(handle, begins(handle))"
          label="counted from today"
      /></template>
      <span v-else class="warn">{{ JSON.stringify(value) }}</span>
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :aria-label="`Take ${property?.title ?? handle} out of ${name}`"
        @click="set(handle, undefined)"
      >
        <X class="icon" />
      </Button>
    </div>
    <div class="row">
      <Choice
        :model-value="''"
        class="inline"
        :label="`Give ${name} a value`"
        none="give it a value …"
        :options="spare.map((row) => ({ id: row.handle, title: row.title }))"
        inline
        @update:model-value="set($event, begins($event))"
      /><Button
        variant="link"
        v-if="node.description === undefined"
        @click="node = { ...node, description: '' }"
        label="and a description"
      />
    </div>
    <label v-if="node.description !== undefined" class="field described"
      ><span>Description</span
      ><Textarea
        :model-value="node.description"
        rows="3"
        maxlength="20000"
        @input="node = { ...node, description: written($event) }"
        fluid
      />
    </label>
  </div>
</template>

<style scoped>
.value {
  min-height: 34px;
}
.name {
  width: 130px;
  flex: none;
  color: var(--quiet);
  font-size: 13px;
}
.count {
  width: 70px;
}
.value > :deep(.p-inputwrapper),
.value > :deep(input) {
  max-width: 300px;
}
.described {
  margin-top: 8px;
}
</style>
