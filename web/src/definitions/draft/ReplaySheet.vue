<script setup lang="ts">
import type { DraftAnswer, ReplayAnswer } from '@bluestem/core/definitions'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import { computed, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { itemsNamed } from '../../queries/itemsBehind.ts'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { counted, numberWords } from '../../parts/words.ts'

/** What a draft would have done to the past: the moves it would have refused, as counts that open the items. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const emit = defineEmits<{ close: [] }>()
const notes = useNotes()
const days = ref(365)
const found = ref<ReplayAnswer>()
watch(
  days,
  async () => {
    found.value = undefined
    await notes.attempt(async () => {
      found.value = await call('GET /definitions/drafts/{id}/replay', {
        params: { id: draft.id },
        query: { days: String(days.value) },
      })
    })
  },
  { immediate: true },
)
const fresh = computed(() => found.value?.refused.filter((one) => one.moves > one.before) ?? [])
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
  <Sheet :title="`Replay of “${draft.title}”`" wide @close="emit('close')">
    <p class="meta">
      what this draft would have done to the moves people made in the last
      <Choice v-model="days" label="Span" :options="spans" inline />
    </p>
    <p v-if="!found" class="quiet" role="status">Looking at every move …</p>
    <template v-else>
      <p>
        <b>{{ numberWords(found.moves) }}</b> moves were made; this draft would have refused
        <b :class="{ warn: found.newly }">{{ numberWords(found.newly) }}</b> of them that the
        edition in force lets pass. A move refused for several reasons stands under each of them.
      </p>
      <DataTable
        v-if="fresh.length"
        :value="[...fresh]"
        table-class="ledger"
        :table-props="{ 'aria-label': 'Moves it would have refused' }"
        ><Column header="Type"
          ><template #body="{ data: one }">{{ title(one.type) }}</template></Column
        >
        <Column header="Move"
          ><template #body="{ data: one }"
            >{{ title(one.from) }} → {{ title(one.to) }}</template
          ></Column
        >
        <Column header="Why"
          ><template #body="{ data: one }"
            ><span class="quiet">{{ one.words }}</span></template
          ></Column
        >
        <Column header="Moves" class="num"
          ><template #body="{ data: one }">{{ numberWords(one.moves) }}</template></Column
        >
        <Column header="Items" class="num"
          ><template #body="{ data: one }"
            ><RouterLink :to="itemsNamed(one.refs)">{{ counted(one.items, 'item') }}</RouterLink
            ><span v-if="one.items > one.refs.length" class="quiet">
              (opens {{ one.refs.length }})</span
            ></template
          ></Column
        ></DataTable
      >
      <p v-else class="blank">Nothing that was done would have been refused.</p>
    </template>
  </Sheet>
</template>

<style scoped>
.span {
  width: auto;
  min-height: 26px;
  padding: 1px 4px;
}
p {
  margin-bottom: 8px;
}
.blank {
  padding: 14px 0;
}
</style>
