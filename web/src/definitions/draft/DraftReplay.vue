<script setup lang="ts">
import type { DraftAnswer, ReplayAnswer } from '@bluestem/core/definitions'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import { computed, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { itemsNamed } from '../../queries/itemsBehind.ts'
import { useNotes } from '../../parts/notes.store.ts'
import { counted, numberWords } from '../../parts/words.ts'

/** What a draft would have done to the past: the moves it would have refused, as counts that open the items. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const emit = defineEmits<{ found: [newly: number, days: number] }>()
const notes = useNotes()
const days = ref(90)
const found = ref<ReplayAnswer>()
watch(
  [days, () => draft.etag],
  async () => {
    await notes.attempt(async () => {
      found.value = await call('GET /definitions/drafts/{id}/replay', {
        params: { id: draft.id },
        query: { days: String(days.value) },
      })
      emit('found', found.value.newly, days.value)
    })
  },
  { immediate: true },
)
const fresh = computed(
  () => found.value?.refused.filter((entry) => entry.moves > entry.before) ?? [],
)
const title = (id: string): string =>
  draft.document.statuses[id]?.title ?? draft.document.types[id]?.title ?? id
const spans = [
  { id: 30, title: '30 days' },
  { id: 90, title: '90 days' },
  { id: 365, title: 'year' },
  { id: 1095, title: 'three years' },
]
</script>

<template>
  <h2 id="replay">
    What it would have done to the last
    <Choice v-model="days" class="span" label="Span" :options="spans" inline />
  </h2>
  <div>
    <p v-if="!found" class="quiet" role="status">Looking at every move …</p>
    <template v-else>
      <p class="quiet">
        {{ numberWords(found.moves) }} moves were made; the edition in force lets
        <b :class="{ warn: found.newly }">{{ numberWords(found.newly) }}</b> of them pass that this
        draft would have refused. A move refused for several reasons stands under each of them.
      </p>
      <DataTable
        v-if="fresh.length"
        :value="[...fresh]"
        table-class="ledger"
        :table-props="{ 'aria-label': 'Moves it would have refused' }"
        ><Column header="Type"
          ><template #body="{ data: entry }">{{ title(entry.type) }}</template></Column
        >
        <Column header="Move"
          ><template #body="{ data: entry }"
            >{{ title(entry.from) }} → {{ title(entry.to) }}</template
          ></Column
        >
        <Column header="Why it would have been refused"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ entry.words }}</span></template
          ></Column
        >
        <Column header="Moves" class="num"
          ><template #body="{ data: entry }">{{ numberWords(entry.moves) }}</template></Column
        >
        <Column header="Items" class="num"
          ><template #body="{ data: entry }"
            ><RouterLink :to="itemsNamed(entry.refs)">{{ counted(entry.items, 'item') }}</RouterLink
            ><span v-if="entry.items > entry.refs.length" class="quiet">
              (opens {{ entry.refs.length }})</span
            ></template
          ></Column
        ></DataTable
      >
      <p v-else class="blank">Nothing that was done would have been refused.</p>
    </template>
  </div>
</template>

<style scoped>
.span {
  vertical-align: middle;
}
p {
  margin-bottom: 8px;
}
.blank {
  padding: 8px 0;
}
</style>
