<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import type { BulkChange, BulkItems } from '@bluestem/core/bulk'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from '../parts/Choice.vue'
import FieldEditor from '../parts/FieldEditor.vue'
import Sheet from '../parts/Sheet.vue'
import { counted } from '../parts/words.ts'
import CarryOut from './CarryOut.vue'
import { bulkChangeOf, changeable, howsFor, type Part } from '../parts/manyParts.ts'
import PreviewWords from './PreviewWords.vue'
import { usePreview } from './usePreview.ts'

/** What is to become of many items: values they all get, or what is added and taken away; what it would do is told while one chooses. */
const {
  items,
  total,
  moves = false,
} = defineProps<{
  items: BulkItems
  total: number
  /** whether one begins with another project */
  moves?: boolean
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const vocabulary = useVocabulary()
const parts = ref<Part[]>([{ handle: moves ? 'project' : 'status', how: 'becomes', value: null }])
const comment = ref('')
const placed = ref('')

const fields = computed(() =>
  vocabulary.columns.filter((column) => changeable(column) || column.handle === 'project'),
)
const offered = computed(() => fields.value.map(({ handle, title }) => ({ id: handle, title })))
const property = (handle: string) => vocabulary.property(handle)
const project = computed(() => parts.value.find(({ handle }) => handle === 'project'))
const changesType = computed(() => parts.value.some(({ handle }) => handle === 'type'))
/** what a type becomes that the other project does not offer */
const retyped = ref('')
const choicesOf = (handle: string) =>
  vocabulary
    .choices(handle)
    .flatMap(({ id, title, mark, retired }) => (retired ? [] : [{ id, title, mark: mark ?? null }]))
const statuses = computed(() => choicesOf('status'))
const types = computed(() => choicesOf('type'))
/** The same of each of a domain, for the server takes only what is needed. */
const eachTo = (ids: readonly string[], to: string): Record<string, string> =>
  Object.fromEntries(ids.map((id) => [id, to]))
const change = computed((): BulkChange => {
  const others = parts.value.filter(({ handle }) => handle !== 'project')
  const rest = bulkChangeOf(others, property)
  const said = comment.value.trim()
  return {
    ...rest,
    ...(said === '' ? {} : { set: { ...rest.set, comment: said } }),
    ...(typeof project.value?.value === 'string' ? { project: project.value.value } : {}),
    ...(project.value && retyped.value !== ''
      ? {
          types: eachTo(
            types.value.map(({ id }) => id),
            retyped.value,
          ),
        }
      : {}),
    ...((changesType.value || project.value) && placed.value !== ''
      ? {
          statuses: eachTo(
            statuses.value.map(({ id }) => id),
            placed.value,
          ),
        }
      : {}),
  }
})
const isEmpty = computed(() => Object.keys(change.value).length === 0)

function choose(part: Part, handle: string): void {
  part.handle = handle
  part.how = firstIn(howsFor(property(handle))).id
  part.value = null
}
const add = (): number => parts.value.push({ handle: 'assignee', how: 'becomes', value: null })

const { preview, wrong, isLooking } = usePreview(
  () => items,
  () => (isEmpty.value ? undefined : change.value),
)
/** whether anything was refused since the fields were chosen: what types and statuses become is asked for only then */
const isRefused = ref(false)
watch(preview, (seen) => {
  if (seen && seen.refused.length > 0) isRefused.value = true
})
watch(project, () => {
  isRefused.value = false
})
</script>

<template>
  <Sheet wide :title="`Change ${counted(total, 'item')}`" @close="emit('close')">
    <div v-for="(part, index) in parts" :key="index" class="part">
      <Choice
        :model-value="part.handle"
        :label="`Field ${index + 1}`"
        :options="offered"
        @update:model-value="choose(part, $event)"
      />
      <Choice
        v-model="part.how"
        :label="`What happens to ${vocabulary.title(part.handle)}`"
        :options="howsFor(property(part.handle))"
      />
      <FieldEditor
        v-if="part.how !== 'empty' && property(part.handle)"
        :key="part.handle"
        :property="property(part.handle)!"
        :value="part.value"
        :name="`Value of ${vocabulary.title(part.handle)}`"
        @change="part.value = $event"
      /><span v-else />
      <Button
        variant="link"
        :aria-label="`Leave ${vocabulary.title(part.handle)} as it is`"
        :disabled="parts.length === 1"
        label="leave"
        @click="parts.splice(index, 1)"
      />
    </div>
    <Button variant="link" label="and another field …" @click="add" />
    <label v-if="project && isRefused" class="field">
      <span>Type, where the other project does not have the one of an item</span>
      <Choice
        v-model="retyped"
        label="Type in the other project"
        none="say later"
        domain="type"
        :options="types"
      />
    </label>
    <label v-if="changesType || (project && isRefused)" class="field">
      <span>Status, where the new flow does not have the one an item is in</span>
      <Choice
        v-model="placed"
        label="Status in the new flow"
        none="say later"
        domain="status"
        :options="statuses"
      />
    </label>
    <label class="field">
      <span>Comment <small class="quiet">added to each item; some moves need one</small></span>
      <Textarea v-model="comment" rows="2" fluid />
    </label>
    <PreviewWords :preview="preview" :wrong="wrong" :is-looking="isLooking" :is-empty="isEmpty" />
    <CarryOut
      :items="items"
      :change="change"
      :total="preview?.total ?? 0"
      :changed="wrong ? 0 : (preview?.changed ?? 0)"
      :title="preview ? `Change ${counted(preview.changed, 'item')}` : 'Change'"
      @close="emit('close')"
      @done="emit('done')"
    />
  </Sheet>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: 170px 130px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
</style>
