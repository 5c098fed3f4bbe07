<script setup lang="ts">
import { keysOf } from '@bluestem/core/known'
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import {
  entryInWords,
  entryKinds,
  giveBack,
  keyInWords,
  kindOfEntry,
  resolve,
  type EntryKind,
  type Origin,
} from '@bluestem/core/definitions'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import type { LongColumn } from '../../parts/longColumn.ts'
import LongLedger from '../../parts/LongLedger.vue'
import { inWords } from '../../parts/ordering.ts'

/** Every entry of a rulebook with where it comes from; its own words can be given back to its parent. */
const { rulebook } = defineProps<{ rulebook: string }>()
const definitions = useDefinitions()
const kind = ref<EntryKind | ''>('')
const origin = ref<Origin | ''>('')
const wanted = ref('')
const origins: readonly Origin[] = ['inherited', 'changed', 'added', 'left out']
const kinds = Object.keys(entryKinds)
const words: Record<Origin, string> = {
  inherited: 'inherited',
  changed: 'changed here',
  added: 'added here',
  'left out': 'left out here',
}
const parent = computed(() => definitions.document.rulebooks[rulebook]?.extends)
const all = computed(() =>
  [...resolve(definitions.document, rulebook).values()]
    .map((candidate) => ({
      ...candidate,
      kind: kindOfEntry(candidate.key),
      about: keyInWords(definitions.document, candidate.key),
      says: entryInWords(definitions.document, candidate.key, candidate.entry),
    }))
    .sort(
      (a, b) => kinds.indexOf(a.kind) - kinds.indexOf(b.kind) || inWords.compare(a.about, b.about),
    ),
)
const counts = computed(() =>
  origins.map((candidate) => ({
    origin: candidate,
    count: all.value.filter((entry) => entry.origin === candidate).length,
  })),
)
const shown = computed(() =>
  all.value.filter(
    (entry) =>
      (!kind.value || entry.kind === kind.value) &&
      (!origin.value || entry.origin === origin.value) &&
      `${entry.about} ${entry.says}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const may = computed(() => definitions.mayChange(rulebook))
const own = computed(() =>
  shown.value
    .filter((entry) => entry.origin !== 'inherited' && entry.parent !== undefined)
    .map((entry) => entry.key),
)
const back = async (keys: readonly string[]): Promise<boolean> =>
  await definitions.edit(giveBack(definitions.document, rulebook, keys))
const title = (id: string): string => definitions.document.rulebooks[id]?.title ?? id
type Listed = (typeof all.value)[number]
const whence = ({ origin: how, from }: Listed): string => {
  if (how === 'inherited') return `from ${title(from)}`
  return parent.value ? words[how] : 'said here'
}
const columns: readonly LongColumn<Listed>[] = [
  { key: 'about', header: 'Entry', class: 'nowrap', by: ({ about }) => about },
  { key: 'says', header: 'What it says', by: ({ says }) => says },
  { key: 'origin', header: 'Where it comes from', by: whence },
  { key: 'back', header: 'Give back', isNumber: true, isAct: true },
]
</script>

<template>
  <div class="entries">
    <div class="row wrap meta">
      <Choice
        v-model="kind"
        class="inline"
        label="Kind of entry"
        none="every kind"
        :options="keysOf(entryKinds).map((id) => ({ id, title: entryKinds[id] }))"
        inline
      />
      <Button
        variant="link"
        v-for="entry in parent ? counts : []"
        :key="entry.origin"
        :aria-pressed="origin === entry.origin"
        :class="{ on: origin === entry.origin }"
        @click="origin = origin === entry.origin ? '' : entry.origin"
        :label="`${entry.count} ${words[entry.origin]}`"
      />
      <InputText
        v-model="wanted"
        class="narrow"
        type="search"
        aria-label="Narrow the entries"
        placeholder="Narrow the entries"
        size="small"
      />
      <span class="grow" /><Button
        variant="link"
        v-if="may && parent && own.length"
        @click="back(own)"
        :label="`give ${own.length === 1 ? 'it' : `all ${own.length}`} back to ${title(parent)}`"
      />
    </div>
    <LongLedger
      v-if="shown.length"
      :rows="shown"
      :columns="columns"
      label="Entries"
      :key-of="(row) => row.key"
    >
      <template #about="{ row: entry }"
        ><small class="quiet">{{ entryKinds[entry.kind] }}</small> {{ entry.about }}</template
      >
      <template #says="{ row: entry }"
        ><span :class="{ quiet: entry.origin === 'inherited', out: entry.origin === 'left out' }">{{
          entry.says
        }}</span></template
      >
      <template #origin="{ row: entry }"
        ><span :class="entry.origin === 'inherited' ? 'quiet' : 'own'">{{ whence(entry) }}</span
        ><span v-if="entry.origin === 'changed'" class="quiet"
          >, there {{ entryInWords(definitions.document, entry.key, entry.parent) }}</span
        ></template
      >
      <template #back="{ row: entry }">
        <Button
          variant="link"
          v-if="may && entry.origin !== 'inherited' && entry.parent"
          :aria-label="`Give ${entry.about} back`"
          @click="back([entry.key])"
          label="give back"
        />
      </template>
    </LongLedger>
    <p v-else class="blank">
      {{
        all.length
          ? 'No entry is like that.'
          : 'This rulebook says nothing yet. Types, forms, flows and the ladder are put into it in their own chapters.'
      }}
    </p>
    <p class="seen-not" role="status">{{ counted(shown.length, 'entry', 'entries') }}</p>
  </div>
</template>

<style scoped>
.entries {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 160px;
}
.entries .meta {
  margin: 6px 0;
}
.on {
  font-weight: 600;
  text-decoration: underline;
}
.own {
  color: var(--leaf);
}
.out {
  text-decoration: line-through;
}
small {
  font-size: 11.5px;
}
</style>
