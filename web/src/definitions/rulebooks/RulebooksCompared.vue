<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import {
  compare,
  entryInWords,
  entryKinds,
  keyInWords,
  kindOfEntry,
  same,
  takeOver,
} from '@bluestem/core/definitions'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import type { LongColumn } from '../../parts/longColumn.ts'
import LongLedger from '../../parts/LongLedger.vue'

/** Two rulebooks side by side: what they have differently, and taking over from one into the other. */
const { first } = defineProps<{ first: string }>()
const definitions = useDefinitions()
const others = computed(() => definitions.rulebooks.filter((rulebook) => rulebook.id !== first))
const second = ref(definitions.document.rulebooks[first]?.extends ?? others.value[0]?.id ?? '')
const ticked = ref<readonly string[]>([])
watch(
  () => [first, second.value],
  () => {
    ticked.value = []
    if (second.value === first) second.value = others.value[0]?.id ?? ''
  },
)
const differences = computed(() =>
  compare(definitions.document, first, second.value, same).map((entry) => ({
    ...entry,
    about: keyInWords(definitions.document, entry.key),
  })),
)
const title = (id: string): string => definitions.document.rulebooks[id]?.title ?? id

async function take(from: string, into: string): Promise<void> {
  if (await definitions.edit(takeOver(definitions.document, from, into, ticked.value)))
    ticked.value = []
}
const columns = computed((): readonly LongColumn<(typeof differences.value)[number]>[] => [
  { key: 'about', header: 'Entry', class: 'nowrap', by: ({ about }) => about },
  { key: 'first', header: title(first) },
  { key: 'second', header: title(second.value) },
])
</script>

<template>
  <div class="compared">
    <div class="row wrap meta">
      <b>{{ title(first) }}</b><span>beside</span
      ><Choice
        v-model="second"
        class="inline"
        label="Beside which rulebook"
        :options="others.map((row) => ({ id: row.id, title: row.title }))"
        inline
      /><span>{{
        differences.length
          ? `${counted(differences.length, 'entry', 'entries')} differ`
          : 'nothing differs'
      }}</span
      ><span class="grow" />
      <template v-if="ticked.length"
        ><span>{{ ticked.length }} ticked:</span
        ><Button
          severity="secondary"
          v-if="definitions.mayChange(first)"
          @click="take(second, first)"
          :label="`take over into ${title(first)}`" /><Button
          severity="secondary"
          v-if="definitions.mayChange(second)"
          @click="take(first, second)"
          :label="`take over into ${title(second)}`"
      /></template>
    </div>
    <LongLedger
      v-if="differences.length"
      v-model:ticked="ticked"
      :rows="differences"
      :columns="columns"
      label="What differs"
      :key-of="(row) => row.key"
      :name-of="(row) => row.about"
    >
      <template #about="{ row: difference }"
        ><small class="quiet">{{ entryKinds[kindOfEntry(difference.key)] }}</small>
        {{ difference.about }}</template
      >
      <template #first="{ row: difference }">{{
        entryInWords(definitions.document, difference.key, difference.first)
      }}</template>
      <template #second="{ row: difference }">{{
        entryInWords(definitions.document, difference.key, difference.second)
      }}</template>
    </LongLedger>
  </div>
</template>

<style scoped>
.compared {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 160px;
}
.compared .meta {
  margin: 6px 0;
}
small {
  font-size: 11.5px;
}
</style>
