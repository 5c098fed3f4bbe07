<script setup lang="ts">
import { certain, elementAt } from '@bluestem/core/known'
import Button from 'primevue/button'
import Choice from '../../parts/Choice.vue'
import { computed, nextTick, ref, watch } from 'vue'
import {
  fieldsIn,
  formOf,
  type FormField,
  type FormSection,
  inOrder,
  orderKeys,
  projectsReached,
  resolve,
  sectionsOf,
  type Edit,
} from '@bluestem/core/definitions'
import { fieldTitle } from '@bluestem/core/work'
import type { ItemAnswer } from '@bluestem/core/queries'
import { call } from '../../api/http.ts'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import Sheet from '../../parts/Sheet.vue'
import FormColumn from './FormColumn.vue'
import FormFieldRules from './FormFieldRules.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** Both forms of a type beside each other, arranged as a real item shows them, with the rules of the field at hand. */
const { type } = defineProps<{ type: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const openedWith = definitions.document
const vocabulary = useVocabulary()
const may = computed(() => definitions.mayChange(definitions.rulebook))

const forms = ['item', 'make'] as const
type Form = (typeof forms)[number]
const titles: Readonly<Record<Form, string>> = { item: 'On an item', make: 'When one is made' }
const read = (form: Form): FormField[] =>
  formOf(definitions.document, definitions.rulebook, type, form)
/** A form for making has no headings. */
const partsOf = (form: Form, fields: readonly FormField[]): FormSection[] =>
  form === 'item' ? sectionsOf(fields) : [{ title: '', fields }]
const arranged = ref<Record<Form, readonly FormSection[]>>({
  item: partsOf('item', read('item')),
  make: partsOf('make', read('make')),
})
const fieldsOf = (form: Form): FormField[] => fieldsIn(arranged.value[form])
const isChanged = (form: Form): boolean =>
  JSON.stringify(fieldsOf(form)) !== JSON.stringify(fieldsIn(partsOf(form, read(form))))
const changed = computed(() => forms.filter(isChanged))
// What others make of it is shown as long as nothing was arranged here.
watch(
  () => definitions.document,
  (_, before) => {
    for (const form of forms) {
      const was = partsOf(form, formOf(before, definitions.rulebook, type, form))
      if (JSON.stringify(fieldsOf(form)) === JSON.stringify(fieldsIn(was)))
        arranged.value[form] = partsOf(form, read(form))
    }
  },
)

const selected = ref<{ readonly form: Form; readonly field: string }>()
const beside = ref<HTMLElement>()
function select(form: Form, field: string): void {
  selected.value = { form, field }
  // On a narrow page the rules stand below the forms.
  void nextTick(() => beside.value?.scrollIntoView({ block: 'nearest' }))
}
const entry = computed(() => {
  if (!selected.value) return undefined
  const { form, field } = selected.value
  return fieldsOf(form).find((entry) => entry.field === field)
})
const chosen = (): { form: Form; field: string } => certain(selected.value, 'field that is chosen')
const otherForm = computed((): Form => (selected.value?.form === 'item' ? 'make' : 'item'))
const isOnOther = computed(() =>
  fieldsOf(otherForm.value).some((entry) => entry.field === selected.value?.field),
)

function change(form: Form, next: (fields: readonly FormField[]) => readonly FormField[]): void {
  const sections = arranged.value[form]
  arranged.value[form] = sections.map((part) => ({ ...part, fields: next(part.fields) }))
}
function setRules(given: FormField): void {
  const replaced = (entry: typeof given) => (entry.field === given.field ? given : entry)
  change(chosen().form, (fields) => fields.map(replaced))
}
function takeOff(): void {
  const { form, field } = chosen()
  change(form, (fields) => fields.filter((entry) => entry.field !== field))
  selected.value = undefined
}
function putOnOther(): void {
  const [form, { field }] = [otherForm.value, chosen()]
  const last = arranged.value[form].length - 1
  arranged.value[form] = arranged.value[form].map((entry, at) =>
    at === last
      ? { ...entry, fields: [...entry.fields, { field, section: '', required: false }] }
      : entry,
  )
  select(form, field)
}

const origins = computed(() => resolve(definitions.document, definitions.rulebook))
/** How a place differs from the parent's; in a rulebook that stands alone everything is its own. */
const originIn =
  (form: Form) =>
  (field: string): string => {
    const entry = origins.value.get(`form:${type}:${form}:${field}`)
    const isDifferent = entry !== undefined && entry.origin !== 'inherited'
    return isDifferent && definitions.document.rulebooks[definitions.rulebook]?.extends
      ? `${entry.origin} here`
      : ''
  }

const builtIn = [
  'priority',
  'labels',
  'components',
  'parent',
  'assignee',
  'iteration',
  'release',
  'estimate',
  'remaining',
  'start',
  'due',
]
const placeable = computed(() =>
  [
    ...builtIn,
    ...inOrder(definitions.document.fields).flatMap(({ id, retired }) => (retired ? [] : [id])),
  ].map((id) => ({ id, title: fieldTitle(definitions.document, id) })),
)
const spareIn = (form: Form) =>
  placeable.value.filter(({ id }) => !fieldsOf(form).some((entry) => entry.field === id))

/** The edits that make a form what is arranged: one for each field whose entry is different. */
function editsOf(form: Form): Edit[] {
  const key = (field: string): string => `form:${type}:${form}:${field}`
  const now = fieldsOf(form)
  const keys = orderKeys(now.length)
  const gone = read(form).filter(({ field }) => !now.some((entry) => entry.field === field))
  return [
    ...gone.map(({ field }) => definitions.sayEntry(key(field), null)),
    ...now.map(({ field, section, required, shownWhen }, index) =>
      definitions.sayEntry(key(field), {
        order: elementAt(keys, index),
        ...(section ? { section } : {}),
        ...(required ? { required } : {}),
        ...(shownWhen
          ? { shownWhen: { field: shownWhen.field, values: [...shownWhen.values] } }
          : {}),
      }),
    ),
  ]
}
const save = async (): Promise<void> => {
  if (await definitions.edit(changed.value.flatMap(editsOf), [], openedWith)) emit('close')
}

// Real items of the type show what the forms will look like.
const samples = ref<readonly ItemAnswer[]>([])
const shownRef = ref('')
const sample = computed(
  () => samples.value.find((sample) => sample.ref === shownRef.value) ?? samples.value[0],
)
const held = placeable.value
  .map(({ id }) => definitions.document.fields[id]?.handle ?? id)
  .filter((handle) => vocabulary.property(handle))
void call('POST /items/search', {
  body: {
    filter: {
      op: 'and',
      args: [
        { op: '=', args: [{ property: 'type' }, type] },
        {
          op: 'in',
          args: [
            { property: 'project' },
            projectsReached(definitions.published, definitions.rulebook, `type:${type}`),
          ],
        },
      ],
    },
    kept: true,
    sort: '-changed',
    limit: 30,
    fields: ['ref', 'title', ...held].join(','),
  },
})
  .then((found) => {
    samples.value = found.items
  })
  .catch(() => undefined)
</script>

<template>
  <Sheet
    :title="`Forms of ${definitions.document.types[type]?.title}`"
    widest
    :written="changed.length > 0"
    @close="emit('close')"
  >
    <div class="row head">
      <span class="meta grow"
        >in rulebook {{ definitions.document.rulebooks[definitions.rulebook]?.title
        }}<template v-if="may"
          >: drag fields under headings, or move with Alt and the arrows</template
        ></span
      >
      <label v-if="samples.length"
        ><span class="quiet">shown as on</span
        ><Choice
          :model-value="sample?.ref ?? ''"
          label="Shown as on"
          :options="samples.map(({ ref, title }) => ({ id: ref, title: `${ref} ${title}` }))"
          inline
          @update:model-value="shownRef = $event" /></label
      ><span v-else class="quiet">no item of this type yet</span>
    </div>
    <div class="forms">
      <FormColumn
        v-for="form in forms"
        :key="form"
        :sections="arranged[form]"
        :title="titles[form]"
        :headings="form === 'item'"
        :may="may"
        :spare="spareIn(form)"
        :sample="sample"
        :selected="selected?.form === form ? selected.field : undefined"
        :origin="originIn(form)"
        @select="select(form, $event)"
        @change="arranged[form] = $event(arranged[form])"
      />
      <aside ref="beside" aria-label="Rules of the field" class="rules-beside">
        <template v-if="entry && selected">
          <h3>{{ fieldTitle(definitions.document, entry.field) }}</h3>
          <p class="quiet">{{ titles[selected.form].toLowerCase() }}</p>
          <FormFieldRules
            :key="`${selected.form} ${entry.field}`"
            :entry="entry"
            :others="fieldsOf(selected.form)"
            :making="selected.form === 'make'"
            :may="may"
            @change="setRules"
          />
          <div v-if="may" class="acts column">
            <Button
              v-if="!isOnOther"
              severity="secondary"
              :label="`Put it on the form “${titles[otherForm].toLowerCase()}” too`"
              @click="putOnOther"
            />
            <Button severity="secondary" label="Take it off this form" @click="takeOff" />
          </div>
        </template>
        <p v-else class="quiet">
          Select a field to see when it is shown and whether it must be filled.
        </p>
      </aside>
    </div>
    <div class="acts">
      <Button
        v-if="may"
        :disabled="changed.length === 0"
        label="Put it in the draft"
        @click="save"
      /><Button severity="secondary" :label="may ? 'Not now' : 'Close'" @click="emit('close')" />
    </div>
  </Sheet>
</template>

<style scoped>
.head {
  margin-bottom: 10px;
}
.head label {
  display: flex;
  align-items: baseline;
  gap: 8px;
  max-width: 420px;
}
.forms {
  display: grid;
  grid-template-columns: minmax(0, 6fr) minmax(0, 5fr) 240px;
  gap: 18px;
  align-items: start;
  margin-bottom: 12px;
}
.rules-beside {
  position: sticky;
  top: 0;
}
.rules-beside h3 {
  margin: 10px 0 0;
  font: 500 15px var(--serif);
}
.rules-beside p {
  margin: 0 0 8px;
}
.acts.column {
  display: grid;
  gap: 8px;
}
@media (max-width: 1000px) {
  .forms {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .rules-beside {
    grid-column: 1 / -1;
  }
}
</style>
