<script setup lang="ts">
import Column from 'primevue/column'
import { inOrder } from '@bluestem/core/definitions'
import { computed, ref } from 'vue'
import Ledger from '../../parts/Ledger.vue'
import StatusMark from '../../parts/StatusMark.vue'
import { numberWords } from '../../parts/words.ts'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** Every status there is, whichever flows have it, and which no shared board shows. */
const { boardsWith } = defineProps<{
  selected: string | undefined
  boardsWith: (status: string) => string
}>()
const emit = defineEmits<{ select: [string]; open: [string] }>()
const definitions = useDefinitions()
const unused = ref(false)
const statuses = computed(() =>
  inOrder(definitions.document.statuses).filter(
    (status) => !unused.value || definitions.isUnused(status.id, 180),
  ),
)
const title = (id: string): string => definitions.document.statuses[id]?.title ?? id
</script>

<template>
  <h2>All statuses <UnusedChoice v-model="unused" :days="180" class="small" /></h2>
  <p v-if="definitions.unplaced.length" class="told">
    No shared board shows {{ definitions.unplaced.map(title).join(', ') }}.
  </p>
  <Ledger
    :rows="statuses"
    label="Statuses of the flow"
    :selected="selected"
    :mark="
      (row) => ({
        'in-draft': definitions.isChanged('statuses', row.id),
        retired: row.retired,
      })
    "
    @update:selected="emit('select', $event)"
    @open="(row) => emit('open', row.id)"
    ><Column header="Title" class="nowrap"
      ><template #body="{ data: entry }"
        ><StatusMark :status="{ id: entry.id, title: entry.title, mark: entry.phase }" /><span
          v-if="definitions.isChanged('statuses', entry.id)"
          class="draft-mark"
          >in the draft</span
        ></template
      ></Column
    >
    <Column header="Phase" class="nowrap"
      ><template #body="{ data: status }"
        ><span class="quiet">{{ status.phase }}{{ status.queue ? ', queue' : '' }}</span></template
      ></Column
    >
    <Column header="When to use it"
      ><template #body="{ data: status }"
        ><span class="quiet">{{ status.description }}</span></template
      ></Column
    >
    <Column header="Boards with a column"
      ><template #body="{ data: status }"
        ><span :class="boardsWith(status.id) ? 'quiet' : 'warn'">{{
          boardsWith(status.id) || 'none'
        }}</span></template
      ></Column
    >
    <Column header="Items" class="num"
      ><template #body="{ data: status }">{{
        numberWords(definitions.items(status.id))
      }}</template></Column
    ></Ledger
  >
</template>

<style scoped>
h2 {
  margin: 0 0 4px;
}
.small {
  font: 400 13px var(--sans);
  margin-left: 8px;
}
</style>
