<script setup lang="ts">
import { computed } from 'vue'
import type { FieldKind } from '@bluestem/core/definitions'

/** What a new item gets in a field: a value, or one that is relative to the day and the person. */
const model = defineModel<unknown>()
const { kind, options } = defineProps<{
  kind: FieldKind
  options: readonly { readonly id: string; readonly title: string; readonly retired?: boolean }[]
}>()
const offered = computed(() => options.filter((one) => !one.retired))
const text = computed(() => (model.value === undefined ? '' : String(model.value)))
const set = (event: Event): void => {
  const { value } = event.target as HTMLInputElement
  model.value =
    value === ''
      ? undefined
      : kind === 'number'
        ? Number(value)
        : kind === 'yes/no'
          ? value === 'true'
          : value
}
function toggle(id: string, on: boolean): void {
  const held = Array.isArray(model.value) ? (model.value as string[]) : []
  model.value = on ? [...held, id] : held.filter((one) => one !== id)
}
</script>

<template>
  <div class="field default">
    <span id="default-label">A new item gets</span>
    <select v-if="kind === 'choice'" aria-labelledby="default-label" :value="text" @change="set">
      <option value="">nothing</option>
      <option v-for="one in offered" :key="one.id" :value="one.id">{{ one.title }}</option>
    </select>
    <select
      v-else-if="kind === 'yes/no'"
      aria-labelledby="default-label"
      :value="text"
      @change="set"
    >
      <option value="">nothing</option>
      <option value="true">yes</option>
      <option value="false">no</option>
    </select>
    <select
      v-else-if="kind === 'person' || kind === 'people'"
      aria-labelledby="default-label"
      :value="text"
      @change="set"
    >
      <option value="">nobody</option>
      <option value="me">whoever makes it</option>
    </select>
    <div
      v-else-if="kind === 'several choices'"
      role="group"
      aria-labelledby="default-label"
      class="row wrap"
    >
      <label v-for="one in offered" :key="one.id"
        ><input
          type="checkbox"
          :checked="Array.isArray(model) && model.includes(one.id)"
          @change="toggle(one.id, ($event.target as HTMLInputElement).checked)"
        />
        {{ one.title }}</label
      >
    </div>
    <input
      v-else
      :type="kind === 'number' ? 'number' : 'text'"
      step="any"
      aria-labelledby="default-label"
      :value="text"
      :placeholder="
        kind === 'date' || kind === 'moment' ? 'nothing; or today, today+14, 2026-12-01' : 'nothing'
      "
      @change="set"
    />
  </div>
</template>

<style scoped>
.default {
  max-width: 360px;
}
</style>
