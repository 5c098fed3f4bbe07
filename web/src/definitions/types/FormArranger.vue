<script setup lang="ts">
import { X } from '@lucide/vue'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import Button from 'primevue/button'
import Choice from '../../parts/Choice.vue'
import { computed, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import {
  formOf,
  inOrder,
  orderKeys,
  projectsReached,
  resolve,
  type Edit,
  type FormField,
} from '@bluestem/core/definitions'
import { fieldTitle, isShown } from '@bluestem/core/work'
import { builtIns, type ItemAnswer } from '@bluestem/core/queries'
import { call } from '../../api/http.ts'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import Sheet from '../../parts/Sheet.vue'
import ValueText from '../../parts/ValueText.vue'
import { heldIds } from '../../parts/heldIds.ts'
import { valueOf } from '../../parts/valueOf.ts'
import FormFieldRules from './FormFieldRules.vue'
import { useDefinitions } from '../definitions.store.ts'

/** The form of a type: its fields in sections, arranged by drag and by keyboard, beside a real item as it would look. */
const { type } = defineProps<{ type: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const openedWith = definitions.document
const vocabulary = useVocabulary()
const which = ref<'item' | 'make'>('item')
const may = computed(() => definitions.mayChange(definitions.rulebook))
const arranged = ref<FormField[]>([])
const opened = ref<string>()
const told = ref('')
const read = (): void => {
  arranged.value = formOf(definitions.document, definitions.rulebook, type, which.value)
}
watch([which, () => definitions.document], read, { immediate: true })

const origins = computed(() => resolve(definitions.document, definitions.rulebook))
/** where a place differs from the parent's; in a rulebook that stands alone everything is its own */
const origin = (field: string): string => {
  const one = origins.value.get(`form:${type}:${which.value}:${field}`)
  return one &&
    one.origin !== 'inherited' &&
    definitions.document.rulebooks[definitions.rulebook]?.extends
    ? `, ${one.origin} here`
    : ''
}
const builtIn = builtIns
  .filter((one) =>
    [
      'priority',
      'assignee',
      'due',
      'start',
      'estimate',
      'remaining',
      'components',
      'labels',
      'parent',
      'iteration',
      'release',
    ].includes(one.handle),
  )
  .map((one) => one.handle)
const spare = computed(() =>
  [
    ...builtIn,
    ...inOrder(definitions.document.fields)
      .filter((field) => !field.retired)
      .map((field) => field.id),
  ].filter((one) => !arranged.value.some((each) => each.field === one)),
)
const title = (field: string): string => fieldTitle(definitions.document, field)
const handle = (field: string): string => definitions.document.fields[field]?.handle ?? field

/** The edits that make the form what is arranged: one for each field whose entry is different. */
function edits(): Edit[] {
  const before = new Map(
    formOf(definitions.document, definitions.rulebook, type, which.value).map((one) => [
      one.field,
      one,
    ]),
  )
  const keys = orderKeys(arranged.value.length)
  const key = (field: string): string => `form:${type}:${which.value}:${field}`
  const gone = [...before.keys()]
    .filter((field) => !arranged.value.some((one) => one.field === field))
    .map((field) => definitions.sayEntry(key(field), null))
  return [
    ...gone,
    ...arranged.value.map(({ field, section, required, shownWhen }, index) =>
      definitions.sayEntry(key(field), {
        order: keys[index]!,
        ...(section ? { section } : {}),
        ...(required ? { required } : {}),
        ...(shownWhen
          ? { shownWhen: { field: shownWhen.field, values: [...shownWhen.values] } }
          : {}),
      }),
    ),
  ]
}
const keep = async (): Promise<void> => {
  if (await definitions.edit(edits(), [], openedWith)) emit('close')
}

function move(index: number, by: -1 | 1): void {
  const to = index + by
  if (to < 0 || to >= arranged.value.length) return
  const [one] = arranged.value.splice(index, 1)
  arranged.value.splice(to, 0, one!)
  told.value = `${title(one!.field)} is now ${to + 1} of ${arranged.value.length}`
}
const add = (field: string): void => {
  if (field)
    arranged.value.push({
      field,
      section: which.value === 'item' ? (arranged.value.at(-1)?.section ?? '') : '',
      required: false,
    })
}

// A real item of the type shows what the form will look like.
const sample = ref<ItemAnswer>()
const followers = projectsReached(definitions.published, definitions.rulebook, `type:${type}`)
const held = [
  ...new Set([...arranged.value.map((one) => handle(one.field)), ...spare.value.map(handle)]),
].filter((one) => vocabulary.property(one))
void call('POST /items/search', {
  body: {
    filter: {
      op: 'and',
      args: [
        { op: '=', args: [{ property: 'type' }, type] },
        { op: 'in', args: [{ property: 'project' }, followers] },
      ],
    },
    kept: true,
    sort: '-changed',
    limit: 1,
    fields: ['ref', 'title', ...held].join(','),
  },
})
  .then((found) => {
    sample.value = found.items[0]
  })
  .catch(() => undefined)
const holds = (rule: FormField['shownWhen']): boolean =>
  sample.value === undefined ||
  isShown(rule, (field) => heldIds(valueOf(sample.value!, handle(field))))
const sections = computed(() => [...new Set(arranged.value.map((one) => one.section))])
</script>

<template>
  <Sheet :title="`Forms of ${definitions.document.types[type]?.title}`" wide @close="emit('close')">
    <Tabs v-model:value="which">
      <TabList>
        <Tab value="item">On an item</Tab>
        <Tab value="make">When one is made</Tab>
      </TabList>
    </Tabs>
    <p class="meta">
      in rulebook {{ definitions.document.rulebooks[definitions.rulebook]?.title }} · drag, or move
      with Alt and the arrows
    </p>
    <div class="two">
      <VueDraggable
        v-model="arranged"
        tag="ol"
        handle=".grip"
        :disabled="!may"
        :animation="0"
        :force-fallback="true"
        aria-label="Fields in order"
      >
        <li
          v-for="(one, index) in arranged"
          :key="one.field"
          tabindex="0"
          :aria-label="`${title(one.field)}, ${index + 1} of ${arranged.length}`"
          @keydown.alt.up.prevent="may && move(index, -1)"
          @keydown.alt.down.prevent="may && move(index, 1)"
        >
          <div class="row">
            <span v-if="may" class="grip" aria-hidden="true">⋮⋮</span
            ><span class="grow cut"
              >{{ title(one.field)
              }}<small v-if="origin(one.field)" class="quiet">{{ origin(one.field) }}</small></span
            ><small v-if="one.section" class="quiet">{{ one.section }}</small
            ><small v-if="one.required" class="warn">required</small
            ><small v-if="one.shownWhen" class="quiet">shown when …</small>
            <template v-if="may"
              ><Button
                variant="link"
                :aria-expanded="opened === one.field"
                :aria-label="`Rules of ${title(one.field)}`"
                @click="opened = opened === one.field ? undefined : one.field"
                label="rules" /><Button
                variant="text"
                severity="secondary"
                size="small"
                :aria-label="`Take ${title(one.field)} off the form`"
                @click="arranged.splice(index, 1)"
              >
                <X class="icon" /> </Button
            ></template>
          </div>
          <FormFieldRules
            v-if="opened === one.field"
            :entry="one"
            :others="arranged"
            :making="which === 'make'"
            @change="arranged[index] = $event"
          />
        </li>
      </VueDraggable>
      <section class="preview" aria-label="Preview">
        <div class="quiet">
          {{ sample ? `${sample.ref} ${sample.title}` : 'no item of this type yet' }}
        </div>
        <template v-for="section in sections" :key="section">
          <h3 v-if="section">{{ section }}</h3>
          <div
            v-for="one in arranged.filter(
              (each) => each.section === section && holds(each.shownWhen),
            )"
            :key="one.field"
            class="line"
          >
            <span class="quiet"
              >{{ title(one.field)
              }}<b v-if="one.required" class="warn" title="required">*</b></span
            ><ValueText
              v-if="sample && vocabulary.property(handle(one.field))"
              :handle="handle(one.field)"
              :value="valueOf(sample, handle(one.field))"
              :settled="false"
            /><span v-else class="quiet">–</span>
          </div>
        </template>
      </section>
    </div>
    <p class="seen-not" aria-live="polite">{{ told }}</p>
    <label v-if="may && spare.length" class="field add"
      ><span>Put another field on it</span
      ><Choice
        :model-value="''"
        label="Put another field on it"
        none="a field …"
        :options="spare.map((one) => ({ id: one, title: title(one) }))"
        @update:model-value="add($event)"
    /></label>
    <div class="acts">
      <Button v-if="may" @click="keep" label="Put it in the draft" /><Button
        severity="secondary"
        @click="emit('close')"
        :label="may ? 'Not now' : 'Close'"
      />
    </div>
  </Sheet>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(0, 6fr);
  gap: 24px;
  margin-bottom: 12px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--hair);
}
li {
  border-bottom: 1px solid var(--hair);
  padding: 4px 2px;
}
li:focus-visible {
  outline-offset: -2px;
}
.grip {
  cursor: grab;
  color: var(--quiet);
  user-select: none;
}
small {
  white-space: nowrap;
}
.preview {
  border: 1px solid var(--hair);
  padding: 10px 14px;
  background: var(--sheet);
  align-self: start;
  font-size: 13px;
}
.preview h3 {
  margin: 12px 0 2px;
  font: 600 11px var(--sans);
  letter-spacing: 0.09em;
  text-transform: uppercase;
  color: var(--quiet);
}
.preview .line {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  border-bottom: 1px solid var(--hair);
  padding: 3px 0;
  min-height: 26px;
}
.add {
  max-width: 320px;
}
</style>
