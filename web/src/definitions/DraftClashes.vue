<script setup lang="ts">
import RadioButton from 'primevue/radiobutton'
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import { type Clash, type Section, sectionWords } from '@bluestem/core/definitions'
import type { Draft } from './types.ts'
import { useDefinitions } from './definitions.store.ts'

/** What this draft and an edition published since changed differently, side by side, to be decided one by one. */
const { draft } = defineProps<{ draft: Draft }>()
const definitions = useDefinitions()
const chosen = reactive<Record<string, 'mine' | 'theirs'>>({})
const key = (clash: Clash): string => JSON.stringify(clash.path)
const ready = computed(() => draft.clashes.every((clash) => chosen[key(clash)]))
const name = ({ path: [section, id = '', part = ''] }: Clash): string =>
  `${sectionWords[section as Section] ?? section} “${definitions.published[section as Section]?.[id]?.title ?? id}”${part ? `, ${part}` : ''}`
const shown = (value: unknown): string =>
  value === undefined
    ? 'taken away'
    : value === 'out'
      ? 'left out'
      : typeof value === 'string'
        ? value
        : JSON.stringify(value)
const side = (differences: Clash['mine']): string =>
  differences.map((one) => shown(one.after)).join('; ')
</script>

<template>
  <h2>Changed in two ways since this draft was begun</h2>
  <table class="ledger">
    <thead>
      <tr>
        <th scope="col">What</th>
        <th scope="col">In this draft</th>
        <th scope="col">In edition {{ definitions.edition?.number }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(clash, index) in draft.clashes" :key="key(clash)">
        <td>{{ name(clash) }}</td>
        <td>
          <label
            ><RadioButton v-model="chosen[key(clash)]" :name="`clash-${index}`" value="mine" />
            {{ side(clash.mine) }}</label
          >
        </td>
        <td>
          <label
            ><RadioButton v-model="chosen[key(clash)]" :name="`clash-${index}`" value="theirs" />
            {{ side(clash.theirs) }}</label
          >
        </td>
      </tr>
    </tbody>
  </table>
  <div class="acts">
    <Button
      :disabled="!ready || !definitions.mayDraft"
      @click="definitions.decide({ ...chosen })"
      label="Decide so"
    />
  </div>
</template>

<style scoped>
h2 {
  margin: 8px 0 2px;
}
.acts {
  margin: 8px 0;
}
</style>
