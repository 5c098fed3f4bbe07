<script setup lang="ts">
import type { OfferedType } from '@bluestem/core/projects'
import { asChoice, type ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import type { Property } from '@bluestem/core/queries'
import { isShown, type WholeItemAnswer } from '@bluestem/core/work'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import FieldEditor from '../parts/FieldEditor.vue'
import ValueText from '../parts/ValueText.vue'
import { heldIds } from '../parts/heldIds.ts'
import { isSettled } from '../parts/isSettled.ts'
import { valueOf } from '../parts/valueOf.ts'
import { isSame, type ItemGiven, plain } from './changing.ts'

/** The fields of an item as the form of its type has them; each is edited in its place. */
const { item, type, priorities } = defineProps<{
  item: WholeItemAnswer
  type: OfferedType
  priorities: readonly ShownChoice[]
}>()
const emit = defineEmits<{ change: [ItemGiven, ItemGiven] }>()
const vocabulary = useVocabulary()
const session = useSession()
const editing = ref('')
const settled = computed(() => isSettled(item))
const handleOf = (field: string): string =>
  type.item.find((entry) => entry.field === field)?.handle ??
  type.make.find((entry) => entry.field === field)?.handle ??
  field
const entries = computed(() =>
  type.item.flatMap((entry) => {
    const property = vocabulary.property(entry.handle)
    return property && isShown(entry.shownWhen, (field) => heldIds(valueOf(item, handleOf(field))))
      ? [{ entry, property }]
      : []
  }),
)
const project = computed(() => asChoice(item['project'])?.id)
const sections = computed(() =>
  [...new Set(entries.value.map(({ entry }) => entry.section))].map((section) => ({
    section,
    entries: entries.value.filter(({ entry }) => entry.section === section),
  })),
)

/** A link cannot stand inside the button that changes it. */
const isWebAddress = (value: unknown): boolean =>
  typeof value === 'string' && /^https?:\/\//.test(value)

/** the value that is edited, as it was when one began: what others make of it meanwhile replaces nothing that is being written */
const seen = ref<unknown>(null)
const given = ref<unknown>()

function begin(handle: string): void {
  seen.value = valueOf(item, handle) ?? null
  given.value = undefined
  editing.value = handle
}
// What one gave oneself is what one sees from then on.
watch(
  () => item,
  (now) => {
    const value = valueOf(now, editing.value) ?? null
    if (editing.value && given.value !== undefined && isSame(value, given.value)) seen.value = value
  },
)

/** A field of one value is done with its first change; one of several stays open for the next. */
function changeInPlace(handle: string, { builtIn, type: kind }: Property, value: unknown): void {
  const before = plain(seen.value)
  given.value = value
  if (kind.kind !== 'array') editing.value = ''
  if (builtIn) emit('change', { [handle]: value }, { [handle]: before })
  else emit('change', { fields: { [handle]: value } }, { fields: { [handle]: before } })
}
</script>

<template>
  <section v-for="{ section, entries: inside } in sections" :key="section" class="group">
    <h2 v-if="section" class="named">{{ section }}</h2>
    <dl>
      <div
        v-for="{ entry, property } in inside"
        :key="entry.handle"
        :class="['pair', { several: property.type.kind === 'array' }]"
      >
        <dt>{{ property.title }}<b v-if="entry.required" class="warn" title="required">*</b></dt>
        <dd v-if="property.computedBy" title="computed">
          <ValueText :handle="entry.handle" :value="valueOf(item, entry.handle)" /><span
            v-if="valueOf(item, entry.handle) === null"
            class="quiet"
            >–</span
          >
        </dd>
        <dd v-else-if="editing === entry.handle && session.mayEdit" @keydown.escape="editing = ''">
          <FieldEditor
            :property="property"
            :value="seen"
            :choices="entry.handle === 'priority' ? priorities : undefined"
            :project="project"
            @change="changeInPlace(entry.handle, property, $event)"
          />
          <Button variant="link" class="small" @click="editing = ''" label="done" />
        </dd>
        <dd v-else-if="session.mayEdit && isWebAddress(valueOf(item, entry.handle))" class="cut">
          <ValueText
            class="cut"
            :handle="entry.handle"
            :value="valueOf(item, entry.handle)"
          /><Button
            variant="link"
            class="small"
            :aria-label="`Change ${property.title}`"
            @click="begin(entry.handle)"
            label="change"
          />
        </dd>
        <dd v-else-if="session.mayEdit">
          <Button
            variant="link"
            class="value"
            :aria-label="`Change ${property.title}`"
            @click="begin(entry.handle)"
          >
            <span v-if="entry.handle === 'parent'">{{
              asChoice(item['parent'])?.id
            }}</span><ValueText
              v-else
              :handle="entry.handle"
              :value="valueOf(item, entry.handle)"
              :settled="settled"
            /><span
              v-if="
                [null, undefined].includes(valueOf(item, entry.handle) as null) ||
                (valueOf(item, entry.handle) as unknown[])?.length === 0
              "
              class="quiet"
              >–</span
            >
          </Button>
        </dd>
        <dd v-else>
          <ValueText
            :handle="entry.handle"
            :value="valueOf(item, entry.handle)"
            :settled="settled"
          />
        </dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
.named {
  margin: 18px 0 4px;
}
dl {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0 28px;
  margin: 0;
}
.pair {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: 31px;
  border-bottom: 1px solid var(--hair);
}
dt {
  color: var(--quiet);
  flex: none;
}
dd {
  margin: 0;
  text-align: right;
  min-width: 0;
  display: flex;
  gap: 6px;
  justify-content: flex-end;
  align-items: center;
}
dd :deep(.p-inputwrapper) {
  flex: 1;
  min-width: 0;
}
.value {
  color: var(--ink);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  flex: 0 1 auto;
  min-height: 26px;
  border: 0;
  background: none;
  padding: 2px 0;
  cursor: pointer;
  text-align: right;
  border-radius: var(--corner);
  min-width: 24px;
}
.value:hover {
  background: var(--wash);
}
.small {
  font-size: 12.5px;
}
</style>
