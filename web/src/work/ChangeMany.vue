<script setup lang="ts">
import type { BulkChange, BulkItems, BulkPreviewAnswer } from '@bluestem/core/bulk'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from '../parts/Choice.vue'
import FieldEditor from '../parts/FieldEditor.vue'
import Sheet from '../parts/Sheet.vue'
import { counted, numberWords } from '../parts/words.ts'
import BulkRefusals from './BulkRefusals.vue'
import CarryOut from './CarryOut.vue'
import { bulkChangeOf, changeable, howsFor, type Part } from './manyParts.ts'

/** What is to become of many items: values they all get, or what is added and taken away; what it would do is told while one chooses. */
const { items, total } = defineProps<{ items: BulkItems; total: number }>()
const emit = defineEmits<{ close: []; done: [] }>()
const vocabulary = useVocabulary()
const parts = ref<Part[]>([{ handle: 'status', how: 'becomes', value: null }])
const comment = ref('')
const placed = ref('')
const preview = ref<BulkPreviewAnswer>()
const wrong = ref('')
const isLooking = ref(false)

const fields = computed(() => vocabulary.columns.filter(changeable))
const offered = computed(() => fields.value.map(({ handle, title }) => ({ id: handle, title })))
const property = (handle: string) => vocabulary.property(handle)
const changesType = computed(() => parts.value.some(({ handle }) => handle === 'type'))
const statuses = computed(() =>
  vocabulary
    .choices('status')
    .flatMap(({ id, title, mark, retired }) =>
      retired ? [] : [{ id, title, mark: mark ?? null }],
    ),
)
const change = computed((): BulkChange => {
  const rest = bulkChangeOf(parts.value, property)
  const said = comment.value.trim()
  return {
    ...rest,
    ...(said === '' ? {} : { set: { ...rest.set, comment: said } }),
    ...(changesType.value && placed.value !== ''
      ? { statuses: Object.fromEntries(statuses.value.map(({ id }) => [id, placed.value])) }
      : {}),
  }
})
const isEmpty = computed(() => Object.keys(change.value).length === 0)

function choose(part: Part, handle: string): void {
  part.handle = handle
  part.how = howsFor(property(handle))[0]!.id
  part.value = null
}
const add = (): number => parts.value.push({ handle: 'assignee', how: 'becomes', value: null })

let timer = 0
let round = 0
async function look(): Promise<void> {
  const mine = (round += 1)
  isLooking.value = true
  try {
    const found = await call('POST /items/bulk/preview', { body: { items, change: change.value } })
    if (mine !== round) return
    preview.value = found
    wrong.value = ''
  } catch (error) {
    if (mine === round) wrong.value = messageOf(error)
  } finally {
    if (mine === round) isLooking.value = false
  }
}
watch(
  () => JSON.stringify(change.value),
  () => {
    window.clearTimeout(timer)
    preview.value = undefined
    round += 1
    if (!isEmpty.value) timer = window.setTimeout(() => void look(), 250)
  },
)
onBeforeUnmount(() => window.clearTimeout(timer))
const refusedCount = computed(() =>
  (preview.value?.refused ?? []).reduce((sum, one) => sum + one.count, 0),
)
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
    <label v-if="changesType" class="field">
      <span>Status, where the new type does not have the one an item is in</span>
      <Choice
        v-model="placed"
        label="Status for the new type"
        none="say later"
        domain="status"
        :options="statuses"
      />
    </label>
    <label class="field">
      <span
        >Said with it
        <small class="quiet">as a comment on each; some moves ask for one</small></span
      >
      <Textarea v-model="comment" rows="2" fluid />
    </label>
    <div class="outcome" aria-live="polite">
      <p v-if="wrong" class="warn" role="alert">{{ wrong }}</p>
      <p v-else-if="preview">
        <b>{{ counted(preview.changed, 'item') }}</b>
        {{ preview.changed === 1 ? 'changes' : 'change'
        }}<template v-if="preview.same"
          >, {{ numberWords(preview.same) }} {{ preview.same === 1 ? 'is' : 'are' }} like that
          already</template
        ><template v-if="refusedCount"
          >,
          <span class="warn"
            >{{ numberWords(refusedCount) }} refused and left as they are</span
          ></template
        >.
      </p>
      <p v-else-if="isEmpty" class="quiet">
        What would change is told here before anything is done.
      </p>
      <p v-else class="quiet">{{ isLooking ? 'Looking at each item …' : '' }}</p>
      <BulkRefusals v-if="preview && !wrong" :refused="preview.refused" />
    </div>
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
.outcome {
  min-height: 44px;
  margin: 10px 0;
}
</style>
