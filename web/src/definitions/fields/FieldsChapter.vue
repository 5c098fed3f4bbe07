<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { entriesOf, fieldKinds, inOrder, isComputed, type Field } from '@bluestem/core/definitions'
import { useSession } from '../../app/session.store.ts'
import { agoWords, counted, firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import FieldForm from './FieldForm.vue'
import OptionsUsed from './OptionsUsed.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../definitions.store.ts'
import { useLiving } from '../living.store.ts'
import { useSelected } from '../chapter/selected.ts'
import { useRowsInSight } from '../chapter/sight.ts'

const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const selected = useSelected()
const editing = ref<string | 'new'>()
const kind = ref('')
const onType = ref('')
const wanted = ref('')
const unused = ref(false)
const all = computed(() =>
  inOrder(definitions.document.fields).sort((a, b) => a.title.localeCompare(b.title)),
)

/** the types on whose forms each field stands, in any rulebook */
const forms = computed(() => {
  const byField = new Map<string, Set<string>>()
  for (const { id } of definitions.rulebooks) {
    for (const key of entriesOf(definitions.document, id).keys()) {
      const [word, type, , field] = key.split(':')
      if (word === 'form' && type && field)
        byField.set(field, (byField.get(field) ?? new Set()).add(type))
    }
  }
  return byField
})
const typesOfField = (id: string): string[] => [...(forms.value.get(id) ?? [])]
const titles = (id: string): string =>
  typesOfField(id)
    .map((type) => definitions.document.types[type]?.title ?? type)
    .join(', ')
const projects = (id: string): string =>
  firstOf(
    Object.entries(definitions.document.projects)
      .filter(([, rulebook]) =>
        [...entriesOf(definitions.document, rulebook).keys()].some(
          (key) => key.startsWith('form:') && key.endsWith(`:${id}`),
        ),
      )
      .map(([project]) => living.projectTitle.get(project) ?? project),
    6,
  )
const shown = computed(() =>
  all.value.filter(
    (field) =>
      (!kind.value || field.kind === kind.value) &&
      (!onType.value || forms.value.get(field.id)?.has(onType.value)) &&
      (!unused.value || (definitions.isUnused(field.id, 180) && !isComputed(field.kind))) &&
      `${field.title} ${field.handle}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const box = ref<HTMLElement>()
const { rows, before, after, go } = useRowsInSight(() => shown.value, box)
const chosen = computed(
  () => all.value.find((field) => field.id === selected.value) ?? shown.value[0],
)
const carrying = (id: string): number =>
  typesOfField(id).reduce((sum, type) => sum + definitions.items(type), 0)
const share = (id: string): number => {
  const all_ = carrying(id)
  return all_ === 0 ? 0 : Math.min(100, Math.round((100 * definitions.items(id)) / all_))
}
const kindWords = (field: Field): string =>
  field.kind === 'choice'
    ? `choice of ${Object.keys(field.options ?? {}).length}`
    : field.kind === 'several choices'
      ? `several of ${Object.keys(field.options ?? {}).length}`
      : field.kind === 'number'
        ? [
            'number',
            field.unit,
            field.decimals === undefined ? undefined : counted(field.decimals, 'decimal'),
          ]
            .filter(Boolean)
            .join(', ')
        : field.kind === 'yes/no'
          ? 'yes or no'
          : field.kind === 'roll-up'
            ? `roll-up: ${field.rollUp?.how ?? ''}`
            : field.kind
const reset = (): void => {
  kind.value = ''
  onType.value = ''
  wanted.value = ''
  unused.value = false
}
const rules = computed((): [string, string][] => {
  const {
    unit,
    smallest,
    largest,
    pattern,
    formula,
    empty,
    rollUp,
    default: standard,
  } = chosen.value ?? ({} as Field)
  return (
    [
      ['unit', unit],
      ['smallest', smallest],
      ['largest', largest],
      ['pattern', pattern],
      ['formula', formula],
      [
        'empty parts',
        formula === undefined
          ? undefined
          : empty === null || empty === undefined
            ? 'no score'
            : `count as ${empty}`,
      ],
      ['of', rollUp?.of],
      [
        'a new item gets',
        Array.isArray(standard)
          ? standard.map((one) => chosen.value?.options?.[one]?.title ?? one).join(', ')
          : typeof standard === 'string'
            ? (chosen.value?.options?.[standard]?.title ?? standard)
            : standard,
      ],
    ] as [string, unknown][]
  )
    .filter(([, value]) => value !== undefined)
    .map(([word, value]): [string, string] => [word, String(value)])
})
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
        :options="fieldKinds.map((one) => ({ id: one, title: one }))"
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
    <div v-if="shown.length" ref="box" class="scrolls">
      <table class="ledger" :aria-rowcount="shown.length + 1">
        <thead>
          <tr>
            <th scope="col">Title</th>
            <th scope="col">Handle</th>
            <th scope="col">Kind</th>
            <th scope="col">On forms of</th>
            <th scope="col" class="num">Filled</th>
            <th scope="col" class="num">Named by</th>
            <th scope="col" class="num">Last used</th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="before" aria-hidden="true" class="filler">
            <td colspan="7" :style="{ height: `${before}px` }" />
          </tr>
          <tr
            v-for="{ index, one: field } in rows"
            :key="field.id"
            tabindex="0"
            :aria-rowindex="index + 2"
            :class="{
              selected: field.id === chosen?.id,
              'in-draft': definitions.isChanged('fields', field.id),
              retired: field.retired,
            }"
            @click="selected = field.id"
            @focus="selected = field.id"
            @keydown.enter.self.prevent="definitions.mayDefineAll && (editing = field.id)"
            @keydown.down.self.prevent="go(index + 1)"
            @keydown.up.self.prevent="go(index - 1)"
          >
            <td class="title" :title="field.title">
              {{ field.title
              }}<span v-if="definitions.isChanged('fields', field.id)" class="draft-mark"
                >in the draft</span
              >
            </td>
            <td class="code quiet">{{ field.handle }}</td>
            <td class="nowrap">{{ kindWords(field) }}</td>
            <td class="quiet forms" :title="titles(field.id)">{{ titles(field.id) || 'none' }}</td>
            <template v-if="isComputed(field.kind)"
              ><td class="num quiet">computed</td>
              <td class="num quiet">{{ definitions.usage.named[field.id]?.length ?? 0 }}</td>
              <td class="num quiet">–</td></template
            >
            <template v-else
              ><td class="num nowrap">
                <span class="bar" aria-hidden="true"
                  ><i :style="{ width: `${share(field.id)}%` }"
                /></span>
                {{ share(field.id) }} %
              </td>
              <td :class="['num', { warn: !definitions.usage.named[field.id]?.length }]">
                {{ definitions.usage.named[field.id]?.length ?? 0 }}
              </td>
              <td
                :class="['num', 'nowrap', definitions.isUnused(field.id, 180) ? 'warn' : 'quiet']"
              >
                {{
                  definitions.usage.last[field.id]
                    ? agoWords(definitions.usage.last[field.id]!, session.now)
                    : 'never'
                }}
              </td></template
            >
          </tr>
          <tr v-if="after" aria-hidden="true" class="filler">
            <td colspan="7" :style="{ height: `${after}px` }" />
          </tr>
        </tbody>
      </table>
    </div>
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
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="chosen.handle"
    :description="chosen.description"
    :countable="!isComputed(chosen.kind)"
    :filter="
      definitions.published.fields[chosen.id] && {
        op: 'not',
        args: [{ op: 'isNull', args: [{ property: chosen.handle }] }],
      }
    "
    :touches="
      isComputed(chosen.kind)
        ? 'Nothing is stored: it is computed when asked for.'
        : `${counted(definitions.items(chosen.id), 'item')} hold a value. Its title may change freely: queries name its handle, which never does.`
    "
  >
    <h3>What it is</h3>
    <div class="line">
      <span>kind</span><span>{{ kindWords(chosen) }}</span>
    </div>
    <div v-for="[word, value] in rules" :key="word" class="line">
      <span>{{ word }}</span><span :class="{ code: word === 'formula' || word === 'pattern' }">{{
        value
      }}</span>
    </div>
    <div class="line">
      <span>on forms of</span><span>{{ titles(chosen.id) || 'none' }}</span>
    </div>
    <div class="line">
      <span>in projects</span><span>{{ projects(chosen.id) || 'none' }}</span>
    </div>
    <OptionsUsed v-if="chosen.options" :field="chosen" />
    <template #acts
      ><template v-if="definitions.mayDefineAll"
        ><Button severity="secondary" @click="editing = chosen.id" label="Change" /><Button
          severity="secondary"
          @click="definitions.retire('fields', chosen.id, !chosen.retired)"
          :label="chosen.retired ? 'Bring back' : 'Retire'" /></template
    ></template>
  </EntryMargin>
</template>

<style scoped>
.bar {
  display: inline-block;
  width: 44px;
  height: 7px;
  border: 1px solid var(--rule);
  margin-right: 4px;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--rule);
}
.forms,
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.forms {
  max-width: 96px;
}
.title {
  max-width: 176px;
}
.ledger td,
.ledger th {
  padding: 0 6px;
}
.ledger th {
  padding: 5px 6px;
}
</style>
