<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
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
import { useDefinitions } from '../definitions.store.ts'
import { useRowsInSight } from '../chapter/sight.ts'

/** Two rulebooks side by side: what they have differently, and taking over from one into the other. */
const { first } = defineProps<{ first: string }>()
const definitions = useDefinitions()
const box = ref<HTMLElement>()
const others = computed(() => definitions.rulebooks.filter((one) => one.id !== first))
const second = ref(definitions.document.rulebooks[first]?.extends ?? others.value[0]?.id ?? '')
const ticked = ref<string[]>([])
watch(
  () => [first, second.value],
  () => {
    ticked.value = []
    if (second.value === first) second.value = others.value[0]?.id ?? ''
  },
)
const differences = computed(() =>
  compare(definitions.document, first, second.value, same).map((one) => ({
    ...one,
    about: keyInWords(definitions.document, one.key),
  })),
)
const { rows, before, after } = useRowsInSight(() => differences.value, box)
const title = (id: string): string => definitions.document.rulebooks[id]?.title ?? id

async function take(from: string, into: string): Promise<void> {
  if (await definitions.edit(takeOver(definitions.document, from, into, ticked.value)))
    ticked.value = []
}
const all = (on: boolean): void => {
  ticked.value = on ? differences.value.map((one) => one.key) : []
}
</script>

<template>
  <div class="compared">
    <div class="row wrap meta">
      <b>{{ title(first) }}</b><span>beside</span
      ><Choice
        v-model="second"
        class="inline"
        label="Beside which rulebook"
        :options="others.map((one) => ({ id: one.id, title: one.title }))"
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
    <div ref="box" class="scrolls">
      <table v-if="differences.length" class="ledger">
        <thead>
          <tr>
            <th scope="col">
              <Checkbox
                :model-value="ticked.length === differences.length"
                binary
                @update:model-value="all($event)"
                aria-label="Tick all"
              />
            </th>
            <th scope="col">Entry</th>
            <th scope="col">{{ title(first) }}</th>
            <th scope="col">{{ title(second) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="before" aria-hidden="true" class="filler">
            <td colspan="4" :style="{ height: `${before}px` }" />
          </tr>
          <tr v-for="{ one } in rows" :key="one.key">
            <td>
              <Checkbox v-model="ticked" :value="one.key" :aria-label="`Tick ${one.about}`" />
            </td>
            <td class="nowrap">
              <small class="quiet">{{ entryKinds[kindOfEntry(one.key)] }}</small> {{ one.about }}
            </td>
            <td>{{ entryInWords(definitions.document, one.key, one.first) }}</td>
            <td>{{ entryInWords(definitions.document, one.key, one.second) }}</td>
          </tr>
          <tr v-if="after" aria-hidden="true" class="filler">
            <td colspan="4" :style="{ height: `${after}px` }" />
          </tr>
        </tbody>
      </table>
    </div>
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
