<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import RadioButton from 'primevue/radiobutton'
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import { type Clash, sectionAt, sectionWords, type DraftAnswer } from '@bluestem/core/definitions'
import { useDefinitions } from '../store/definitions.store.ts'

/** What this draft and an edition published since changed differently, side by side, to be decided one by one. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const chosen = reactive<Record<string, 'mine' | 'theirs'>>({})
const key = (clash: Clash): string => JSON.stringify(clash.path)
const ready = computed(() => draft.clashes.every((clash) => chosen[key(clash)]))
function name({ path }: Clash): string {
  const [first, id = '', part = ''] = path
  const after = part ? `, ${part}` : ''
  if (first === 'projects') return `project “${id}”${after}`
  const section = sectionAt(path)
  return `${sectionWords[section]} “${definitions.published[section][id]?.title ?? id}”${after}`
}
const shown = (value: unknown): string =>
  value === undefined
    ? 'taken away'
    : value === 'out'
      ? 'left out'
      : typeof value === 'string'
        ? value
        : JSON.stringify(value)
const side = (differences: Clash['mine']): string =>
  differences.map((difference) => shown(difference.after)).join('; ')
</script>

<template>
  <h2>Changed in two ways since this draft was begun</h2>
  <DataTable
    :value="[...draft.clashes]"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What clashes' }"
    ><Column header="What"
      ><template #body="{ data: clash }">{{ name(clash) }}</template></Column
    >
    <Column header="In this draft"
      ><template #body="{ data: clash, index }"
        ><label
          ><RadioButton v-model="chosen[key(clash)]" :name="`clash-${index}`" value="mine" />
          {{ side(clash.mine) }}</label
        ></template
      ></Column
    >
    <Column
      ><template #header>In edition {{ definitions.edition?.number }}</template
      ><template #body="{ data: clash, index }"
        ><label
          ><RadioButton v-model="chosen[key(clash)]" :name="`clash-${index}`" value="theirs" />
          {{ side(clash.theirs) }}</label
        ></template
      ></Column
    ></DataTable
  >
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
