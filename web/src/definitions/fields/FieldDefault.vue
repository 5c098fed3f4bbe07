<script setup lang="ts">
import { asTexts } from '@bluestem/core/known'
import { written } from '../../parts/eventTarget.ts'
import Choice from '../../parts/Choice.vue'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import { type Field, fieldKind, type FieldKind } from '@bluestem/core/definitions'

/** What a new item gets in a field: a value, or one that is relative to the day and the person. */
const model = defineModel<Field['default']>()
const { kind, options } = defineProps<{
  kind: FieldKind
  options: readonly { readonly id: string; readonly title: string; readonly retired?: boolean }[]
}>()
const values = computed(() => fieldKind(kind).values)
const several = computed(() => fieldKind(kind).several === true)
const offered = computed(() => options.filter((option) => !option.retired))
const text = computed(() => (model.value === undefined ? '' : String(model.value)))
const yesOrNo = [
  { id: 'true', title: 'yes' },
  { id: 'false', title: 'no' },
]
function take(value: string): void {
  if (value === '') model.value = undefined
  else if (values.value === 'number') model.value = Number(value)
  else if (values.value === 'boolean') model.value = value === 'true'
  else model.value = value
}
const set = (event: Event): void => take(written(event))
function toggle(id: string, on: boolean): void {
  const held = Array.isArray(model.value) ? asTexts(model.value) : []
  model.value = on ? [...held, id] : held.filter((entry) => entry !== id)
}
</script>

<template>
  <div class="field default">
    <span id="default-label">A new item gets</span>
    <Choice
      v-if="values === 'option' && !several"
      :model-value="text"
      label="A new item gets"
      none="nothing"
      :options="offered"
      @update:model-value="take"
    />
    <Choice
      v-else-if="values === 'boolean'"
      :model-value="text"
      label="A new item gets"
      none="nothing"
      :options="yesOrNo"
      @update:model-value="take"
    />
    <Choice
      v-else-if="values === 'person'"
      :model-value="text"
      label="A new item gets"
      none="nobody"
      :options="[{ id: 'me', title: 'whoever makes it' }]"
      @update:model-value="take"
    />
    <div
      v-else-if="values === 'option'"
      role="group"
      aria-labelledby="default-label"
      class="row wrap"
    >
      <label v-for="entry in offered" :key="entry.id"
        ><Checkbox
          :model-value="Array.isArray(model) && model.includes(entry.id)"
          binary
          @update:model-value="toggle(entry.id, $event)"
        />
        {{ entry.title }}</label
      >
    </div>
    <InputText
      :model-value="text"
      v-else
      :type="values === 'number' ? 'number' : 'text'"
      step="any"
      aria-labelledby="default-label"
      :placeholder="
        values === 'date' || values === 'timestamp'
          ? 'nothing; or today, today+14, 2026-12-01'
          : 'nothing'
      "
      @change="set"
      fluid
    />
  </div>
</template>

<style scoped>
.default {
  max-width: 360px;
}
</style>
