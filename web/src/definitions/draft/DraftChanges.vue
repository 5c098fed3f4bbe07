<script setup lang="ts">
import type { DraftAnswer } from '@bluestem/core/definitions'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useSession } from '../../session/session.store.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import TextDifference from '../../parts/TextDifference.vue'
import { agoWords, numberWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** The changes of a draft, each with what stands there before and after, who made it, the items that differ, and its undoing. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const session = useSession()
/** What is wrong in several places in the same words is said once. */
const problems = computed(() => {
  const places = new Map<string, number>()
  for (const { message, expected } of draft.problems) {
    const words = expected ? `${message} Needed: ${expected}.` : message
    places.set(words, (places.get(words) ?? 0) + 1)
  }
  return [...places]
})
</script>

<template>
  <DataTable
    :value="[...draft.changes]"
    data-key="id"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What changes' }"
    ><Column header="Entry"
      ><template #body="{ data: change }"
        >{{ change.sides.kind }} <b>{{ change.sides.title }}</b><template v-if="change.sides.part"
          >, <span class="quiet">{{ change.sides.part }}</span></template
        ></template
      ></Column
    >
    <Column header="Before and after"
      ><template #body="{ data: change }"
        ><TextDifference
          :before="change.sides.before"
          :after="change.sides.after ?? (change.sides.before === null ? null : 'nothing')"
          :title="change.words" /></template
    ></Column>
    <Column header="By" class="nowrap"
      ><template #body="{ data: change }"
        ><span class="quiet" :title="agoWords(change.at, session.now)">{{
          change.by
        }}</span></template
      ></Column
    >
    <Column header="Items" class="num nowrap"
      ><template #body="{ data: change }"
        ><RouterLink v-if="change.filter && change.items" :to="itemsBehind(change.filter)">{{
          numberWords(change.items)
        }}</RouterLink
        ><template v-else>{{ change.items ? numberWords(change.items) : '–' }}</template></template
      ></Column
    >
    <Column v-if="definitions.mayDraft && draft.mayPublish" class="num"
      ><template #header><span class="seen-not">Undo</span></template
      ><template #body="{ data: change }"
        ><Button
          variant="link"
          :disabled="!change.undoable"
          :title="change.undoable ? '' : 'Later changes rest on this one'"
          @click="definitions.undo(change.id)"
          label="undo" /></template></Column
  ></DataTable>
  <p v-for="[words, places] in problems" :key="words" class="told">
    {{ words }} <span v-if="places > 1" class="quiet">in {{ places }} places</span>
  </p>
</template>
