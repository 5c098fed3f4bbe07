<script setup lang="ts">
import { elementAt } from '@bluestem/core/known'
import type { ImportCheck } from '@bluestem/core/exchange'
import { type Edit, inOrder, orderKeys } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { computed, ref, watch } from 'vue'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import { useDefinitions } from '../definitions/store/definitions.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import { counted } from '../parts/words.ts'

/** Labels, components and options that a file names and that there are not: those that are chosen are made, or put in the draft. */
const { unknown, project } = defineProps<{
  unknown: ImportCheck['unknown']
  /** the identity of the project the file goes to */
  project: string
}>()
const emit = defineEmits<{ made: [] }>()
const vocabulary = useVocabulary()
const definitions = useDefinitions()
const session = useSession()
const notes = useNotes()
type Unknown = ImportCheck['unknown'][number]

const isOption = ({ domain }: Unknown): boolean => domain.startsWith('option:')
const mayMake = (entry: Unknown): boolean => session.mayDefine || !isOption(entry)
const keyOf = ({ handle, value }: Unknown): string => `${handle} ${value}`
const chosen = ref<string[]>([])
watch(
  () => unknown,
  (all) => {
    chosen.value = all.filter(mayMake).map(keyOf)
  },
  { immediate: true },
)
const wanted = computed(() => unknown.filter((entry) => chosen.value.includes(keyOf(entry))))
const isBusy = ref(false)

/** A label of a family is written with the family before it. */
function labelOf(value: string): { title: string; family?: string } {
  const [before = '', ...after] = value.split(': ')
  const family = vocabulary.vocabulary?.choices.family.find(
    ({ title }) => title.toLowerCase() === before.toLowerCase(),
  )
  return family && after.length > 0
    ? { title: after.join(': '), family: family.id }
    : { title: value }
}

/** The edits that give fields the options that are wanted, after those they have. */
function optionEdits(options: readonly Unknown[]): Edit[] {
  const ids = [...new Set(options.map(({ domain }) => domain.slice('option:'.length)))]
  return ids.flatMap((field) => {
    const own = options.filter(({ domain }) => domain === `option:${field}`)
    const held = inOrder(definitions.document.fields[field]?.options ?? {})
    const orders = orderKeys(own.length, held.at(-1)?.order ?? null)
    return own.map(({ value }, index) => ({
      path: ['fields', field, 'options', definitions.newId('option')],
      after: { title: value, order: elementAt(orders, index) },
    }))
  })
}

async function make(): Promise<void> {
  isBusy.value = true
  const options = wanted.value.filter(isOption)
  const wentWell = await notes.attempt(async () => {
    for (const { domain, value } of wanted.value.filter((entry) => !isOption(entry)))
      if (domain === 'label') await call('POST /labels', { body: labelOf(value) })
      else await call('POST /components', { body: { project, title: value } })
    if (options.length > 0) {
      await definitions.load()
      if (!(await definitions.edit(optionEdits(options)))) return
      notes.show(
        'well',
        `${counted(options.length, 'option')} in the draft; they come with its edition.`,
      )
    }
    await vocabulary.load()
  })
  isBusy.value = false
  if (wentWell) emit('made')
}
</script>

<template>
  <section aria-labelledby="unknown">
    <h2 id="unknown">Not there yet</h2>
    <p class="quiet">
      The file names what there is not. Labels and components are made at once; options are put in
      the draft, and can be given once it is published.
    </p>
    <ul class="unknown">
      <li v-for="entry in unknown" :key="keyOf(entry)">
        <label>
          <Checkbox v-model="chosen" :value="keyOf(entry)" :disabled="!mayMake(entry)" />
          <b>{{ entry.value }}</b>
          <span class="quiet">{{ vocabulary.title(entry.handle) }}</span>
        </label>
        <span class="quiet"
          >{{ counted(entry.rows, 'row')
          }}{{ mayMake(entry) ? '' : ', an administrator can add it' }}</span
        >
      </li>
    </ul>
    <Button
      severity="secondary"
      :disabled="isBusy || wanted.length === 0"
      :label="`Make ${counted(wanted.length, 'of them', 'of them')}`"
      @click="make"
    />
  </section>
</template>

<style scoped>
section {
  margin-top: 22px;
}
.unknown {
  list-style: none;
  margin: 6px 0 10px;
  padding: 0;
  max-height: 260px;
  overflow: auto;
}
.unknown li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
}
.unknown label {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
