<script setup lang="ts">
import type { DraftAnswer } from '@bluestem/core/definitions'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { useSession } from '../../app/session.store.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { agoWords, counted, firstOf } from '../../parts/words.ts'
import { useDefinitions } from '../definitions.store.ts'

/** The changes of a draft in words: who made each, what it touches, and its undoing. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const session = useSession()
</script>

<template>
  <DataTable
    :value="[...draft.changes]"
    data-key="id"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What it changes' }"
    ><Column header="What it does"
      ><template #body="{ data: change }">{{ change.words }}</template></Column
    >
    <Column header="By" class="nowrap"
      ><template #body="{ data: change }"
        ><span class="quiet"
          >{{ change.by }}, {{ agoWords(change.at, session.now) }}</span
        ></template
      ></Column
    >
    <Column header="Named by"
      ><template #body="{ data: change }"
        ><span class="quiet">{{
          firstOf(
            change.named.map((one: { kind: string; title: string }) => `${one.kind} ${one.title}`),
            3,
          ) || '–'
        }}</span></template
      ></Column
    >
    <Column header="Touches" class="num nowrap"
      ><template #body="{ data: change }"
        ><RouterLink v-if="change.filter" :to="itemsBehind(change.filter)">{{
          counted(change.items, 'item')
        }}</RouterLink
        ><template v-else>{{ counted(change.items, 'item') }}</template></template
      ></Column
    >
    <Column class="num"
      ><template #header><span class="seen-not">Undo</span></template
      ><template #body="{ data: change }"
        ><Button
          variant="link"
          v-if="definitions.mayDraft && draft.mayPublish"
          :disabled="!change.undoable"
          :title="change.undoable ? '' : 'Later changes rest on this one'"
          @click="definitions.undo(change.id)"
          label="undo" /></template></Column
  ></DataTable>
  <p v-for="problem in draft.problems" :key="problem.pointer + problem.message" class="told">
    {{ problem.message }}
    <template v-if="problem.expected">Needed: {{ problem.expected }}.</template>
  </p>
</template>
