<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { entriesOf, fieldKinds, inOrder, isComputed } from '@bluestem/core/definitions'
import { counted, firstOf } from '../../parts/words.ts'
import type { LongColumn } from '../../parts/longColumn.ts'
import LongLedger from '../../parts/LongLedger.vue'
import ChapterHead from '../chapter/ChapterHead.vue'
import LastUsed from '../chapter/LastUsed.vue'
import FieldForm from './FieldForm.vue'
import FieldMargin from './FieldMargin.vue'
import { kindWords } from './fieldWords.ts'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const editing = ref<string | 'new'>()
const kind = ref('')
const onType = ref('')
const wanted = ref('')
const unused = ref(false)
const all = computed(() =>
  inOrder(definitions.document.fields).sort((a, b) => a.title.localeCompare(b.title)),
)

/** the types on whose forms each field stands, in any rulebook, and the rulebooks that say so */
const forms = computed(() => {
  const byField = new Map<string, { types: Set<string>; rulebooks: Set<string> }>()
  for (const { id } of definitions.rulebooks) {
    for (const key of entriesOf(definitions.document, id).keys()) {
      if (!key.startsWith('form:')) continue
      const [, type = '', , field = ''] = key.split(':')
      const places = byField.get(field) ?? { types: new Set(), rulebooks: new Set() }
      places.types.add(type)
      places.rulebooks.add(id)
      byField.set(field, places)
    }
  }
  return byField
})
const typesOfField = (id: string): string[] => [...(forms.value.get(id)?.types ?? [])]
const titles = (id: string): string =>
  typesOfField(id)
    .map((type) => definitions.document.types[type]?.title ?? type)
    .join(', ')
const projects = (id: string): string =>
  firstOf(
    Object.entries(definitions.document.projects)
      .filter(([, rulebook]) => forms.value.get(id)?.rulebooks.has(rulebook))
      .map(([project]) => living.projectTitle.get(project) ?? project),
    6,
  )
const shown = computed(() =>
  all.value.filter(
    (field) =>
      (!kind.value || field.kind === kind.value) &&
      (!onType.value || forms.value.get(field.id)?.types.has(onType.value)) &&
      (!unused.value || (definitions.isUnused(field.id, 180) && !isComputed(field.kind))) &&
      `${field.title} ${field.handle}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const chosen = computed(
  () => all.value.find((field) => field.id === selected.value) ?? shown.value[0],
)
const carrying = (id: string): number =>
  typesOfField(id).reduce((sum, type) => sum + definitions.items(type), 0)
const share = (id: string): number => {
  const all_ = carrying(id)
  return all_ === 0 ? 0 : Math.min(100, Math.round((100 * definitions.items(id)) / all_))
}
type Listed = (typeof all.value)[number]
const named = ({ id }: Listed): number => definitions.usage.named[id]?.length ?? 0
const lastUse = ({ id }: Listed): string => definitions.usage.last[id] ?? ''
const columns: readonly LongColumn<Listed>[] = [
  { key: 'title', header: 'Title', class: 'title', by: ({ title }) => title },
  { key: 'handle', header: 'Handle', class: 'code quiet', by: ({ handle }) => handle },
  { key: 'kind', header: 'Kind', class: 'nowrap', by: kindWords },
  { key: 'forms', header: 'On forms of', class: 'quiet forms', by: ({ id }) => titles(id) },
  {
    key: 'filled',
    header: 'Filled',
    isNumber: true,
    class: 'nowrap',
    by: ({ id, kind: of }) => (isComputed(of) ? -1 : share(id)),
  },
  { key: 'named', header: 'Named by', isNumber: true, by: named },
  { key: 'last', header: 'Last used', isNumber: true, by: lastUse },
]
const reset = (): void => {
  kind.value = ''
  onType.value = ''
  wanted.value = ''
  unused.value = false
}
</script>

<template>
  <section class="sheet fixed">
    <ChapterHead
      about="What an item may hold. A field is defined once, and put on the forms of types."
      title="Fields"
      make="New field"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
    >
      <span>{{ counted(all.length, 'field') }} of kind</span
      ><Choice
        v-model="kind"
        class="inline"
        label="Kind"
        none="any"
        :options="fieldKinds.map((row) => ({ id: row, title: row }))"
        inline
      />
      <span>on forms of</span
      ><Choice
        v-model="onType"
        class="inline"
        label="On forms of"
        none="any type"
        :options="
          inOrder(definitions.document.types).map((type) => ({ id: type.id, title: type.title }))
        "
        inline
      />
      <InputText
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the list"
        placeholder="Narrow the list"
        size="small"
      />
      <UnusedChoice v-model="unused" :days="180" />
    </ChapterHead>
    <LongLedger
      v-if="shown.length"
      :rows="shown"
      :columns="columns"
      label="Fields"
      :key-of="(field) => field.id"
      :selected="chosen?.id"
      :mark="
        (field) => ({
          'in-draft': definitions.isChanged('fields', field.id),
          retired: field.retired,
        })
      "
      @select="selected = $event.id"
      @open="definitions.mayDefineAll && (editing = $event.id)"
    >
      <template #title="{ row: field }">
        <span :title="field.title"
          >{{ field.title
          }}<span v-if="definitions.isChanged('fields', field.id)" class="draft-mark"
            >in the draft</span
          ></span
        >
      </template>
      <template #handle="{ row: field }">{{ field.handle }}</template>
      <template #kind="{ row: field }">{{ kindWords(field) }}</template>
      <template #forms="{ row: field }"
        ><span :title="titles(field.id)">{{ titles(field.id) || 'none' }}</span></template
      >
      <template #filled="{ row: field }">
        <span v-if="isComputed(field.kind)" class="quiet">computed</span>
        <template v-else
          ><span class="bar" aria-hidden="true"
            ><i :style="{ width: `${share(field.id)}%` }"
          /></span>
          {{ share(field.id) }} %</template
        >
      </template>
      <template #named="{ row: field }"
        ><span :class="isComputed(field.kind) ? 'quiet' : { warn: !named(field) }">{{
          named(field)
        }}</span></template
      >
      <template #last="{ row: field }">
        <span v-if="isComputed(field.kind)" class="quiet">–</span>
        <LastUsed v-else :id="field.id" />
      </template>
    </LongLedger>
    <p v-else-if="all.length" class="blank">
      No field is like that.
      <Button variant="link" @click="reset" :label="`Show all ${all.length}`" />
    </p>
    <p v-else class="blank">
      Here the fields would stand that items have beside the built-in ones.
      <Button
        variant="link"
        v-if="definitions.mayDefineAll"
        @click="editing = 'new'"
        label="Define the first one."
      />
    </p>
    <FieldForm v-if="editing" :id="editing" @close="editing = undefined" />
  </section>
  <FieldMargin
    v-if="chosen"
    :field="chosen"
    :types="titles(chosen.id)"
    :projects="projects(chosen.id)"
    @edit="editing = chosen.id"
  />
</template>

<style scoped>
.bar {
  display: inline-block;
  width: 44px;
  height: 7px;
  border: 1px solid var(--rule);
  margin-right: 4px;
}
/* Where there is little room, the number says enough. */
@media (max-width: 1340px) {
  .bar {
    display: none;
  }
}
.bar i {
  display: block;
  height: 100%;
  background: var(--rule);
}
:deep(.forms),
:deep(.title) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
:deep(.forms) {
  max-width: 80px;
}
:deep(.title) {
  max-width: 176px;
}
</style>
