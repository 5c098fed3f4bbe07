<script setup lang="ts">
import { computed } from 'vue'
import { formOf } from '@bluestem/core/definitions'
import { templateTypes } from '@bluestem/core/templates'
import { useVocabulary } from '../api/vocabulary.store.ts'
import FieldEditor from '../parts/FieldEditor.vue'
import type { TemplateNode } from './template.ts'
import { useDefinitions } from './definitions.store.ts'

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
  ].map((one) => definitions.published.fields[one.field]?.handle ?? one.field)
  return [
    ...new Set(['priority', 'labels', 'components', 'assignee', 'estimate', ...onForms]),
  ].flatMap((handle) => {
    const property = vocabulary.property(handle)
    return property && !property.computed && !['parent', 'type', 'title', 'status'].includes(handle)
      ? [property]
      : []
  })
})
const given = computed(() => [...Object.keys(node.value.values), ...Object.keys(node.value.fields)])
const spare = computed(() => givable.value.filter((one) => !given.value.includes(one.handle)))
const rows = computed(() =>
  given.value.map((handle) => ({
    handle,
    property: vocabulary.property(handle),
    value: node.value.values[handle] ?? node.value.fields[handle],
  })),
)
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
        ><input
          :value="node.title"
          type="text"
          required
          maxlength="300"
          @input="node = { ...node, title: ($event.target as HTMLInputElement).value }"
      /></label>
      <label class="field"
        ><span>Type</span
        ><select
          :value="node.type"
          :aria-label="`Type of ${name}`"
          @change="node = { ...node, type: ($event.target as HTMLSelectElement).value }"
        >
          <option v-if="!types.includes(node.type)" :value="node.type">
            {{ definitions.published.types[node.type]?.title ?? 'gone' }} (not offered)
          </option>
          <option v-for="one in types" :key="one" :value="one">
            {{ definitions.published.types[one]?.title }}
          </option>
        </select></label
      >
    </div>
    <div v-for="{ handle, property, value } in rows" :key="handle" class="row value">
      <span class="name">{{ property?.title ?? `${handle} (gone)` }}</span>
      <template v-if="isRelative(value)"
        ><input
          type="number"
          class="count"
          :value="value.in"
          :aria-label="`How many, ${property?.title ?? handle}`"
          @change="
            set(handle, {
              ...value,
              in: Math.round(Number(($event.target as HTMLInputElement).value)),
            })
          "
        /><select
          :value="value.unit"
          :aria-label="`What is counted, ${property?.title ?? handle}`"
          @change="set(handle, { ...value, unit: ($event.target as HTMLSelectElement).value })"
        >
          <option>days</option>
          <option>working days</option></select
        ><span class="quiet">from the day it is used</span
        ><button class="plain" type="button" @click="set(handle, null)">a set day</button></template
      >
      <template v-else-if="property"
        ><FieldEditor
          :property="property"
          :value="value"
          :name="`${property.title} of ${name}`"
          @change="set(handle, $event)"
        /><button
          v-if="property.type.kind === 'date'"
          class="plain"
          type="button"
          @click="set(handle, begins(handle))"
        >
          counted from today
        </button></template
      >
      <span v-else class="warn">{{ JSON.stringify(value) }}</span>
      <button
        class="plain"
        type="button"
        :aria-label="`Take ${property?.title ?? handle} out of ${name}`"
        @click="set(handle, undefined)"
      >
        ×
      </button>
    </div>
    <div class="row">
      <select
        class="inline"
        :value="''"
        :aria-label="`Give ${name} a value`"
        @change="
          set(
            ($event.target as HTMLSelectElement).value,
            begins(($event.target as HTMLSelectElement).value),
          )
        "
      >
        <option value="">give it a value …</option>
        <option v-for="one in spare" :key="one.handle" :value="one.handle">
          {{ one.title }}
        </option></select
      ><button
        v-if="node.description === undefined"
        class="plain"
        type="button"
        @click="node = { ...node, description: '' }"
      >
        and a description
      </button>
    </div>
    <label v-if="node.description !== undefined" class="field described"
      ><span>Description</span
      ><textarea
        :value="node.description"
        rows="3"
        maxlength="20000"
        @input="node = { ...node, description: ($event.target as HTMLTextAreaElement).value }"
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
.value select {
  width: auto;
}
.value > :deep(.picks),
.value > :deep(input),
.value > :deep(select) {
  max-width: 300px;
}
.described {
  margin-top: 8px;
}
</style>
