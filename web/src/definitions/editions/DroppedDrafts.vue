<script setup lang="ts">
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { onMounted, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import { useNotes } from '../../parts/notes.store.ts'
import { momentWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** Drafts that were dropped in the last 30 days, each of which can be taken back. */
interface DroppedDraft {
  readonly id: string
  readonly title: string
  readonly count: number
  readonly by: string
  readonly at: string
}
const definitions = useDefinitions()
const session = useSession()
const notes = useNotes()
const dropped = ref<readonly DroppedDraft[]>([])
const load = async (): Promise<void> =>
  void (await notes.attempt(async () => {
    dropped.value = (await call('GET /definitions/dropped-drafts')).drafts
  }))
onMounted(load)
// Dropping and taking back both change which are open.
watch(() => definitions.drafts, load)
</script>

<template>
  <template v-if="dropped.length">
    <h2 class="dropped">Dropped in the last 30 days</h2>
    <DataTable
      :value="[...dropped]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Dropped drafts' }"
      ><Column header="Draft"
        ><template #body="{ data: draft }">{{ draft.title }}</template></Column
      >
      <Column header="Dropped by" class="nowrap"
        ><template #body="{ data: draft }">{{ draft.by }}</template></Column
      >
      <Column header="When" class="nowrap"
        ><template #body="{ data: draft }"
          ><span class="quiet">{{ momentWords(draft.at, session.now) }}</span></template
        ></Column
      >
      <Column header="Changes" class="num"
        ><template #body="{ data: draft }">{{ draft.count }}</template></Column
      >
      <Column class="num nowrap"
        ><template #header><span class="seen-not">Acts</span></template
        ><template #body="{ data: draft }"
          ><Button
            variant="link"
            :aria-label="`Take back ${draft.title}`"
            label="take back"
            @click="definitions.takeBack(draft.id)" /></template></Column
    ></DataTable>
  </template>
</template>

<style scoped>
.dropped {
  margin: 26px 0 4px;
}
</style>
