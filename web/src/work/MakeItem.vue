<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import type { FormEntry, OffersAnswer } from '@bluestem/core/projects'
import { written } from '../parts/eventTarget.ts'
import Choice from '../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import RadioButton from 'primevue/radiobutton'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { type EditItem, isShown } from '@bluestem/core/work'
import { messageOf, messagesOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import FieldEditor from '../parts/FieldEditor.vue'
import { useUnfinished } from '../parts/unfinished.ts'
import { heldIds } from '../parts/heldIds.ts'
import Sheet from '../parts/Sheet.vue'
import TypeMark from '../parts/TypeMark.vue'

/** Making an item: a title and a type are enough; the form of the type offers what else is usually known. */
const {
  offers,
  given = {},
  from = '',
} = defineProps<{
  offers: OffersAnswer
  given?: Readonly<Record<string, unknown>>
  from?: string
}>()
const emit = defineEmits<{ close: []; made: [string] }>()
const vocabulary = useVocabulary()
const usual = offers.types.find((type) => type.id === offers.usual) ?? firstIn(offers.types)
const type = ref(String(given['type'] ?? usual.id))
const title = ref(String(given['title'] ?? ''))
const values = reactive<Record<string, unknown>>({ priority: offers.priority, ...given })
const told = ref<readonly string[]>([])
const busy = ref(false)
// One key for one intention: pressing twice, or a lost answer, makes one item.
const key = crypto.randomUUID()
const offered = computed(() => offers.types.find((entry) => entry.id === type.value) ?? usual)
const handleOf = (field: string): string =>
  offered.value.make.find((entry) => entry.field === field)?.handle ??
  offered.value.item.find((entry) => entry.field === field)?.handle ??
  field
/** what is given by where the item is made, or by the item it is copied from, and has no place of its own in the form */
const givenBeside = Object.keys(given).filter(
  (handle) => !['title', 'type', 'status', 'description', 'project'].includes(handle),
)
/** the fields of the form that shows when one is made, and those that are given or filled beside */
const entries = computed(() => {
  const beside = [...filled.value, ...givenBeside]
    .filter((handle) => !offered.value.make.some((entry) => entry.handle === handle))
    .map((handle) => ({ field: handle, handle, section: '', required: false }))
  return [...offered.value.make, ...beside].flatMap((entry: FormEntry) => {
    const property = vocabulary.property(entry.handle)
    return property &&
      !property.computedBy &&
      isShown(entry.shownWhen, (field) => heldIds(values[handleOf(field)]))
      ? [{ entry, property }]
      : []
  })
})
watch(type, () => {
  told.value = []
})

// A template fills the form; what it makes below the item comes with it, all or nothing.
const templateId = ref(from ?? '')
const template = computed(() =>
  offers.templates.find((template) => template.id === templateId.value),
)
const templates = offers.templates.map(({ id, title, below }) => ({
  id,
  title: below ? `${title} (and ${below} below it)` : title,
}))
const blanks = reactive<Record<string, string>>({})
const filled = ref<readonly string[]>([])
const left = ref<readonly { readonly message: string }[]>([])
const below = ref<readonly { readonly key: string; readonly title: string }[]>([])
const description = ref(String(given['description'] ?? ''))

async function fill(): Promise<void> {
  told.value = []
  below.value = []
  left.value = []
  filled.value = []
  if (!template.value) return
  try {
    const {
      item,
      children,
      left: without,
    } = await call('POST /templates/{id}/fill', {
      params: { id: template.value.id },
      body: {
        project: offers.code,
        blanks: Object.fromEntries(Object.entries(blanks).filter(([, value]) => value)),
      },
    })
    title.value = item.title
    type.value = item.type
    description.value = item.description ?? ''
    Object.assign(values, item.values, item.fields)
    filled.value = [...Object.keys(item.values), ...Object.keys(item.fields)]
    below.value = children
    left.value = without
  } catch (error) {
    told.value = [messageOf(error)]
  }
}
watch([template, blanks], fill, { immediate: true, deep: true })

// A form opened by hand survives leaving it; one that starts from somewhere is begun there again.
const survives = Object.keys(given).length === 0 && from === ''
const unfinished = survives
  ? useUnfinished(
      `item in ${offers.code}`,
      () => (title.value.trim() ? { title: title.value, type: type.value, values } : undefined),
      (kept) => {
        title.value = kept.title
        if (offers.types.some(({ id }) => id === kept.type)) type.value = kept.type
        Object.assign(values, kept.values)
      },
    )
  : undefined
function beginAnew(): void {
  unfinished?.forget()
  emit('close')
}

async function make(): Promise<void> {
  busy.value = true
  const { type: _, status: __, title: ___, description: ____, ...rest } = values
  const shown = entries.value.map(({ entry }) => entry.handle)
  const custom = entries.value
    .filter(({ property }) => !property.builtIn)
    .map(({ property }) => property.handle)
  const own: Partial<EditItem> = Object.fromEntries(
    Object.entries(rest).filter(
      ([handle, value]) =>
        value !== null &&
        value !== undefined &&
        (shown.includes(handle) || handle in given) &&
        !custom.includes(handle),
    ),
  )
  const fields = Object.fromEntries(
    custom
      .filter((handle) => values[handle] !== undefined && values[handle] !== null)
      .map((handle) => [handle, values[handle]]),
  )
  try {
    const made = template.value
      ? await call('POST /templates/{id}/make', {
          params: { id: template.value.id },
          body: {
            project: offers.code,
            title: title.value,
            blanks: { ...blanks },
            over: {
              ...own,
              ...(description.value ? { description: description.value } : {}),
              fields,
            },
          },
        })
      : await call('POST /items', {
          body: {
            project: offers.code,
            type: type.value,
            title: title.value,
            ...own,
            ...(description.value ? { description: description.value } : {}),
            ...(typeof given['status'] === 'string' ? { status: given['status'] } : {}),
            ...(Object.keys(fields).length ? { fields } : {}),
          },
          headers: { 'Idempotency-Key': key },
        })
    unfinished?.forget()
    emit('made', made.ref)
  } catch (error) {
    told.value = messagesOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :title="`New item in ${offers.title}`" wide :survives="survives" @close="emit('close')">
    <p v-if="unfinished?.isTakenUp.value" class="quiet taken">
      Taken up where you left it.
      <Button variant="link" label="throw it away" @click="beginAnew" />
    </p>
    <form @submit.prevent="make">
      <label v-if="offers.templates.length" class="field"
        ><span>From a template</span
        ><Choice v-model="templateId" label="From a template" none="none" :options="templates"
      /></label>
      <div v-if="template?.blanks.length" class="pairs">
        <label v-for="blank in template.blanks" :key="blank" class="field"
          ><span>{{ blank }}</span
          ><InputText
            :model-value="blanks[blank] ?? ''"
            @change="blanks[blank] = written($event)"
            maxlength="300"
            fluid
        /></label>
      </div>
      <label class="field"
        ><span>Title</span><InputText v-model="title" required maxlength="300" autofocus fluid
      /></label>
      <div class="field">
        <span id="type-label">Type</span>
        <div class="types" role="radiogroup" aria-labelledby="type-label">
          <label
            v-for="entry in template ? [offered] : offers.types"
            :key="entry.id"
            :class="{ chosen: entry.id === type }"
            :title="entry.description"
            ><RadioButton v-model="type" name="type" :value="entry.id" class="seen-not" /><TypeMark
              :mark="entry.mark"
              :title="entry.title"
            />
            {{ entry.title }}</label
          >
        </div>
        <p class="quiet">{{ offered.description }}</p>
      </div>
      <div class="pairs">
        <div v-for="{ entry, property } in entries" :key="entry.handle" class="field">
          <span
            >{{ property.title }}<b v-if="entry.required" class="warn" title="required">*</b></span
          ><FieldEditor
            :property="property"
            :project="offers.id"
            :value="values[entry.handle]"
            :choices="entry.handle === 'priority' ? offers.priorities : undefined"
            @change="values[entry.handle] = $event"
          />
        </div>
      </div>
      <label v-if="(template || given['description']) && description" class="field"
        ><span>Description</span><Textarea v-model="description" rows="3" maxlength="20000" fluid />
      </label>
      <p v-if="below.length" class="quiet">
        Below it: {{ below.map((one) => one.title).join(', ') }}.
      </p>
      <p v-for="entry in left" :key="entry.message" class="warn">
        Left out of the template: {{ entry.message }}
      </p>
      <p v-for="line in told" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || !title.trim()"
          :label="below.length ? `Make it, with ${below.length} below it` : 'Make it'"
        /><Button severity="secondary" @click="emit('close')" label="Not now" />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.types {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 4px;
}
.types label {
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  padding: 3px 9px;
  cursor: pointer;
}
.types label.chosen {
  border-color: var(--stem);
  background: var(--stem-wash);
}
.types label:focus-within {
  outline: 2px solid var(--stem);
  outline-offset: 2px;
}
.pairs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 22px;
}
</style>
