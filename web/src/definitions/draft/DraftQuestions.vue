<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import type { MappingNeed, DraftAnswer } from '@bluestem/core/definitions'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** What values in use become that a draft puts out of use. Nothing is published while one of these is open. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const living = useLiving()
const words: Readonly<Record<string, string>> = {
  type: 'type',
  status: 'status',
  priority: 'priority',
}

function title(column: MappingNeed['column'], id: string): string {
  const { document } = draft
  if (column === 'type') return document.types[id]?.title ?? id
  if (column === 'status') return document.statuses[id]?.title ?? id
  if (column === 'priority') return document.priorities[id]?.title ?? id
  return document.fields[column.slice('option:'.length)]?.options?.[id]?.title ?? id
}
const word = (column: MappingNeed['column']): string =>
  words[column] ??
  `option of ${draft.document.fields[column.slice('option:'.length)]?.title ?? 'a field'}`
const where = (need: MappingNeed): string =>
  `${
    need.column === 'type' || need.column === 'priority'
      ? ''
      : `${need.types
          .slice(0, 3)
          .map((type) => draft.document.types[type]?.title ?? type)
          .join(', ')}${need.types.length > 3 ? ' and others' : ''} in `
  }${need.projects.map((project) => living.projectTitle.get(project) ?? project).join(', ')}`
const chosen = (need: MappingNeed): string => {
  const to = draft.choices[need.key]
  return to === undefined ? '' : (to ?? 'empty')
}
const successors = (need: MappingNeed): { id: string; title: string }[] => [
  ...need.choices.map((id) => ({ id, title: title(need.column, id) })),
  ...(need.mayEmpty ? [{ id: 'empty', title: 'nothing' }] : []),
]
function choose(need: MappingNeed, to: string): void {
  if (to) void definitions.choose({ [need.key]: to === 'empty' ? null : to })
}
</script>

<template>
  <DataTable
    class="questions"
    :value="[...draft.needs]"
    data-key="key"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What values in use become' }"
    ><Column header="Goes out of use"
      ><template #body="{ data: need }"
        >{{ word(need.column) }} <b>{{ title(need.column, need.from) }}</b></template
      ></Column
    >
    <Column header="Where"
      ><template #body="{ data: need }"
        ><span class="quiet">{{ where(need) }}</span></template
      ></Column
    >
    <Column header="Items" class="num"
      ><template #body="{ data: need }">{{ counted(need.items, 'item') }}</template></Column
    >
    <Column header="They become"
      ><template #body="{ data: need }"
        ><Choice
          :label="`What ${title(need.column, need.from)} becomes in ${where(need)}`"
          :invalid="draft.open.includes(need.key)"
          :model-value="chosen(need)"
          :disabled="!draft.mayPublish"
          :none="need.needed ? 'choose …' : 'stay as they are'"
          :options="successors(need)"
          inline
          @update:model-value="choose(need, $event)"
        /><span v-if="draft.open.includes(need.key)" class="told"> open</span></template
      ></Column
    ></DataTable
  >
</template>

<style scoped>
.questions {
  margin-bottom: 8px;
}
</style>
