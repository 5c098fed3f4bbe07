<script setup lang="ts">
import { elementAt, lastIn } from '@bluestem/core/known'
import { GripVertical, X } from '@lucide/vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import {
  addSection,
  type FormField,
  type FormSection,
  moveField,
  moveSection,
  renameSection,
} from '@bluestem/core/definitions'
import { fieldTitle, isShown } from '@bluestem/core/work'
import type { ItemAnswer } from '@bluestem/core/queries'
import { written } from '../../parts/eventTarget.ts'
import Choice from '../../parts/Choice.vue'
import ValueText from '../../parts/ValueText.vue'
import { heldIds } from '../../parts/heldIds.ts'
import { valueOf } from '../../parts/valueOf.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** One form of a type, arranged as the item itself: its fields under their headings, with what a real item holds. */
const { sections, title, headings, may, spare, sample, selected, origin } = defineProps<{
  sections: readonly FormSection[]
  title: string
  /** whether its fields stand under headings */
  headings: boolean
  may: boolean
  /** the fields that may be put on it */
  spare: readonly { readonly id: string; readonly title: string }[]
  sample: ItemAnswer | undefined
  /** the field whose rules stand beside it */
  selected: string | undefined
  /** how a field stands to the rulebook that this one extends, in words */
  origin: (field: string) => string
}>()
type Change = (now: readonly FormSection[]) => readonly FormSection[]
/** A field that is dragged over leaves one section and comes to another: both changes are told before the page is drawn anew. */
const emit = defineEmits<{ select: [string]; change: [Change] }>()
const definitions = useDefinitions()
const root = ref<HTMLElement>()
const told = ref('')
const heading = ref('')

const fieldsOf = (all: readonly FormSection[]): FormField[] =>
  all.flatMap((entry) => [...entry.fields])
const fields = computed(() => fieldsOf(sections))
const titleOf = (field: string): string => fieldTitle(definitions.document, field)
const handleOf = (field: string): string => definitions.document.fields[field]?.handle ?? field
const placeOf = (field: string): number => fields.value.findIndex((entry) => entry.field === field)
/** Whether there is something to show: nothing is, where a field is new. */
const isHeld = (value: unknown): boolean =>
  value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0)
const isSeen = ({ shownWhen }: FormField): boolean =>
  sample === undefined || isShown(shownWhen, (field) => heldIds(valueOf(sample, handleOf(field))))

const put = (at: number, moved: readonly FormField[]): void =>
  emit('change', (now) =>
    now.map((entry, place) => (place === at ? { ...entry, fields: moved } : entry)),
  )

/** Keeps the focus on what was moved. */
async function focusOn(name: string): Promise<void> {
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-place="${CSS.escape(name)}"]`)?.focus()
}
async function move(field: string, by: -1 | 1): Promise<void> {
  const next = moveField(sections, field, by)
  emit('change', () => next)
  const under = next.find((entry) => entry.fields.some((each) => each.field === field))
  const place = fieldsOf(next).findIndex((entry) => entry.field === field) + 1
  told.value = `${titleOf(field)} is now ${place} of ${fields.value.length}${
    under?.title ? `, under ${under.title}` : ''
  }`
  await focusOn(field)
}
async function moveHeading(at: number, by: -1 | 1): Promise<void> {
  const { title: moved } = elementAt(sections, at)
  const next = moveSection(sections, at, by)
  emit('change', () => next)
  told.value = `${moved} is now heading ${next.findIndex((entry) => entry.title === moved)} of ${next.length - 1}`
  await focusOn(`heading ${moved}`)
}
function rename(at: number, to: string): void {
  const next = renameSection(sections, at, to)
  emit('change', () => next)
}
function add(field: string): void {
  if (!field) return
  put(sections.length - 1, [...lastIn(sections).fields, { field, section: '', required: false }])
  emit('select', field)
}
function begin(): void {
  const next = addSection(sections, heading.value.trim())
  emit('change', () => next)
  heading.value = ''
}
</script>

<template>
  <section ref="root" class="form" :aria-label="title">
    <h3>{{ title }}</h3>
    <div v-for="(section, at) in sections" :key="section.title" class="part">
      <div v-if="section.title" class="heading">
        <InputText
          v-if="may"
          :model-value="section.title"
          :data-place="`heading ${section.title}`"
          :aria-label="`Heading ${section.title}`"
          maxlength="80"
          class="plainly"
          @change="rename(at, written($event).trim())"
          @keydown.alt.up.prevent="moveHeading(at, -1)"
          @keydown.alt.down.prevent="moveHeading(at, 1)"
        /><span v-else>{{ section.title }}</span>
        <Button
          v-if="may"
          variant="text"
          severity="secondary"
          size="small"
          :aria-label="`Take the heading ${section.title} away`"
          title="Take the heading away: its fields join those above"
          class="away"
          @click="rename(at, '')"
        >
          <X class="icon" />
        </Button>
      </div>
      <VueDraggable
        :model-value="[...section.fields]"
        tag="ol"
        handle=".grip"
        :group="title"
        :disabled="!may"
        :animation="0"
        :force-fallback="true"
        :aria-label="section.title ? `Fields under ${section.title}` : 'Fields'"
        @update:model-value="put(at, $event)"
      >
        <li
          v-for="entry in section.fields"
          :key="entry.field"
          tabindex="0"
          :data-place="entry.field"
          :class="{ selected: selected === entry.field, unseen: !isSeen(entry) }"
          :aria-label="`${titleOf(entry.field)}, ${placeOf(entry.field) + 1} of ${fields.length}`"
          @click="emit('select', entry.field)"
          @keydown.enter.self.prevent="emit('select', entry.field)"
          @keydown.alt.up.prevent="may && move(entry.field, -1)"
          @keydown.alt.down.prevent="may && move(entry.field, 1)"
        >
          <span v-if="may" class="grip" aria-hidden="true"><GripVertical class="icon" /></span>
          <Button
            variant="link"
            class="name"
            :aria-expanded="selected === entry.field"
            :aria-label="`Rules of ${titleOf(entry.field)}`"
            ><span class="cut">{{ titleOf(entry.field) }}</span
            ><b v-if="entry.required" class="warn" title="must be filled">*</b></Button
          ><small v-if="origin(entry.field)" class="quiet">{{ origin(entry.field) }}</small>
          <span class="value cut"
            ><span v-if="!isSeen(entry)" class="quiet">not shown on this item</span
            ><ValueText
              v-else-if="sample && isHeld(valueOf(sample, handleOf(entry.field)))"
              :handle="handleOf(entry.field)"
              :value="valueOf(sample, handleOf(entry.field))"
              :settled="false"
            /><span v-else class="quiet">–</span></span
          >
        </li>
      </VueDraggable>
      <p v-if="section.fields.length === 0 && section.title" class="quiet hint">
        Drag fields here. A heading without any is not kept.
      </p>
    </div>
    <p v-if="fields.length === 0" class="quiet hint">No field is on this form yet.</p>
    <div v-if="may" class="more">
      <Choice
        v-if="spare.length"
        :model-value="''"
        :label="`Put another field on it: ${title}`"
        none="Put a field on it …"
        :options="spare"
        @update:model-value="add($event)"
      />
      <form v-if="headings" @submit.prevent="begin">
        <InputText
          v-model="heading"
          aria-label="A new heading"
          placeholder="A new heading"
          maxlength="80"
        /><Button
          type="submit"
          severity="secondary"
          label="Add it"
          :disabled="heading.trim() === ''"
        />
      </form>
    </div>
    <p class="seen-not" aria-live="polite">{{ told }}</p>
  </section>
</template>

<style scoped>
.form {
  border: 1px solid var(--hair);
  padding: 10px 14px 14px;
  background: var(--sheet);
  font-size: 13px;
}
h3 {
  margin: 0 0 6px;
  font: 500 15px var(--serif);
}
.heading {
  display: flex;
  align-items: center;
  margin-top: 12px;
  border-bottom: 1px solid var(--rule);
  font: 600 11px var(--sans);
  letter-spacing: 0.09em;
  text-transform: uppercase;
  color: var(--quiet);
}
.plainly {
  flex: 1;
  padding: 3px 2px;
  border-color: transparent;
  background: none;
  font: inherit;
  letter-spacing: inherit;
  text-transform: inherit;
  color: inherit;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  min-height: 12px;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 30px;
  padding: 0 2px;
  border-bottom: 1px solid var(--hair);
}
li:focus-visible {
  outline-offset: -2px;
}
li.selected {
  background: var(--stem-wash);
}
li .name {
  color: inherit;
}
li.unseen .name {
  opacity: 0.75;
}
.grip {
  display: flex;
  cursor: grab;
  color: var(--quiet);
}
.away {
  min-width: 24px;
  min-height: 24px;
}
.name {
  justify-content: flex-start;
  min-width: 24px;
  min-height: 24px;
  padding: 2px 0;
}
.value {
  flex: 1;
  text-align: right;
}
.hint {
  margin: 4px 0;
}
.more {
  display: grid;
  gap: 8px;
  margin-top: 12px;
}
.more form {
  display: flex;
  gap: 8px;
}
.more form > :first-child {
  flex: 1;
  min-width: 0;
}
</style>
