<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref, watch } from 'vue'
import {
  entriesOf,
  type FieldPart,
  fieldKinds,
  handleFor,
  hasPart,
  isComputed,
  inOrder,
  replaceAt,
  rollUps,
  validate,
  type Edit,
} from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import FieldDefault from './FieldDefault.vue'
import FieldPlaces from './FieldPlaces.vue'
import { editsOfPlaces, type Place, placesOf } from './places.ts'
import FieldOptions from './FieldOptions.vue'
import FormActs from '../chapter/FormActs.vue'
import ScorePreview from './ScorePreview.vue'
import { beginField, fieldOf } from './writtenField.ts'
import { useDefinitions } from '../store/definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const known = definitions.document.fields[id]
const types = computed(() => inOrder(definitions.document.types).filter((type) => !type.retired))
const entries = entriesOf(definitions.document, definitions.rulebook)
/** What was never published may still be named and made otherwise. */
const isPublished = definitions.published.fields[id] !== undefined
const rulebook = computed(
  () => definitions.document.rulebooks[definitions.rulebook]?.title ?? 'the rulebook',
)
const form = reactive(beginField(known))
const optionsForm = ref<{ addOption: () => void }>()
const places = ref<readonly Place[]>(placesOf(entries, types.value, id))
const touchedHandle = ref(Boolean(known))
const busy = ref(false)
const has = (part: FieldPart): boolean => hasPart(form.kind, part)
const numbers = computed(() => [
  { handle: 'estimate', title: 'Estimate' },
  { handle: 'remaining', title: 'Remaining' },
  ...inOrder(definitions.document.fields).filter(
    (field) => field.kind === 'number' && !field.retired,
  ),
])

/** A handle is proposed from the title until somebody writes one. */
watch(
  () => form.title,
  (title) => {
    if (!touchedHandle.value) form.handle = handleFor(title)
  },
)

const order = known?.order ?? definitions.lastOrder(definitions.document.fields)

const parts = [
  'title',
  'description',
  'unit',
  'decimals',
  'smallest',
  'largest',
  'pattern',
  'default',
  'options',
  'formula',
  'empty',
  'rollUp',
] as const

function edits(): Edit[] {
  const field = known ? id : definitions.newId('fields')
  const whole = fieldOf(form, order)
  const all: Edit[] = isPublished
    ? parts
        .filter((part) => whole[part] !== undefined || known?.[part] !== undefined)
        .map((part) => ({ path: ['fields', field, part], after: whole[part] }))
    : [{ path: ['fields', field], after: whole }]
  return [...all, ...editsOfPlaces(entries, places.value, field, lastOn, definitions.sayEntry)]
}

/** The place after the last field of a form. */
const lastOn = (prefix: string): string =>
  definitions.lastOrder(
    Object.fromEntries(
      [...entries]
        .filter(([key]) => key.startsWith(prefix))
        .map(([key, entry]) => [key, { order: entry.order ?? '' }]),
    ),
  )

/** What is wrong with the definitions already is not this field's to mend. */
const wrongBefore = new Set(validate(opened).map((entry) => entry.message))

/** What the definitions would say against the field as it is written, before anything is kept. */
const problems = computed(() => {
  if (form.title === '' || form.handle === '') return []
  const field = known ? id : 'fi_written'
  return validate(replaceAt(opened, ['fields', field], fieldOf(form, order)))
    .filter(
      (entry) => entry.pointer.startsWith(`/fields/${field}`) && !wrongBefore.has(entry.message),
    )
    .map((entry) =>
      entry.expected ? `${entry.message} Needed: ${entry.expected}.` : entry.message,
    )
})

async function keep(atOnce = false): Promise<void> {
  busy.value = true
  optionsForm.value?.addOption()
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The field ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New field'" wide @close="emit('close')">
    <form @submit.prevent="keep()">
      <div class="row">
        <label class="field grow"
          ><span>Title</span
          ><InputText v-model="form.title" required maxlength="80" autofocus fluid /></label
        ><label class="field grow"
          ><span>Handle: its name in queries, for ever</span
          ><InputText
            v-model="form.handle"
            class="code"
            required
            maxlength="40"
            pattern="[a-z][a-z0-9_]*"
            :disabled="isPublished"
            @input="touchedHandle = true"
            fluid
        /></label>
      </div>
      <label class="field"
        ><span>Kind</span
        ><Choice
          v-model="form.kind"
          :disabled="isPublished"
          label="Kind"
          :options="fieldKinds.map((kind) => ({ id: kind, title: kind }))"
      /></label>
      <div v-if="has('unit') || has('decimals')" class="row">
        <label class="field grow"
          ><span>Unit</span><InputText v-model="form.unit" maxlength="12" fluid /></label
        ><label class="field grow"
          ><span>Decimals</span><InputNumber v-model="form.decimals" :min="0" :max="6" fluid
        /></label>
        <template v-if="has('smallest')"
          ><label class="field grow"
            ><span>Smallest</span
            ><InputNumber v-model="form.smallest" :max-fraction-digits="6" fluid /></label
          ><label class="field grow"
            ><span>Largest</span
            ><InputNumber v-model="form.largest" :max-fraction-digits="6" fluid /></label
        ></template>
      </div>
      <label v-if="has('pattern')" class="field"
        ><span>Pattern that the whole text must match (a regular expression; empty for any)</span
        ><InputText v-model="form.pattern" class="code" maxlength="200" fluid
      /></label>
      <FieldOptions
        v-if="has('options')"
        ref="optionsForm"
        v-model="form.options"
        :published="definitions.published.fields[id]?.options ?? {}"
      />
      <FieldDefault
        v-if="!isComputed(form.kind)"
        v-model="form.default"
        :kind="form.kind"
        :options="form.options"
      />
      <template v-if="has('formula')">
        <label class="field"
          ><span>Formula: arithmetic over the handles of numbers</span
          ><Textarea
            v-model="form.formula"
            class="code"
            rows="2"
            maxlength="1000"
            required
            placeholder="(6 - urgency) * 10 + cost_of_parts"
            fluid
          />
        </label>
        <label class="field half"
          ><span>An empty part means</span
          ><Choice
            :model-value="form.empty === null ? 'none' : 'value'"
            label="An empty part means"
            :options="[
              { id: 'none', title: 'no score' },
              { id: 'value', title: 'a stated value' },
            ]"
            @update:model-value="form.empty = $event === 'none' ? null : 0" /><InputNumber
            v-if="form.empty !== null"
            v-model="form.empty"
            :max-fraction-digits="6"
            aria-label="The value an empty part counts as"
            fluid
        /></label>
        <ScorePreview :formula="form.formula" :empty="form.empty" />
      </template>
      <div v-if="has('rollUp')" class="row">
        <label class="field grow"
          ><span>Of everything below</span
          ><Choice
            v-model="form.how"
            label="Of everything below"
            :options="rollUps.map((how) => ({ id: how, title: how }))" /></label
        ><label v-if="form.how !== 'share done'" class="field grow"
          ><span>of</span
          ><Choice
            v-model="form.of"
            label="of"
            :options="numbers.map((number) => ({ id: number.handle, title: number.title }))"
        /></label>
      </div>
      <label class="field"
        ><span>When to use it, who fills it</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <FieldPlaces v-model="places" :rulebook="rulebook" />
      <p v-for="words in problems" :key="words" class="told" role="alert">{{ words }}</p>
      <FormActs
        :busy="busy"
        :small="isPublished && definitions.mayDefineAll"
        @close="emit('close')"
        @at-once="keep(true)"
      />
    </form>
  </Sheet>
</template>

<style scoped>
.half {
  max-width: 320px;
}
.half input {
  margin-top: 4px;
}
</style>
