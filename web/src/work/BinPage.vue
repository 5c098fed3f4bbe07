<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import type { BinItem } from '@bluestem/core/bin'
import Button from 'primevue/button'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import Ledger from '../parts/Ledger.vue'
import TypeMark from '../parts/TypeMark.vue'
import { useNotes } from '../parts/notes.store.ts'
import { agoWords, counted, dayWords } from '../parts/words.ts'

/** Deleted items, which can be brought back for 30 days. */
const session = useSession()
const notes = useNotes()
const items = ref<readonly BinItem[]>()
const total = ref(0)
const words = ref('')
const selected = ref<string>()

async function load(): Promise<void> {
  await notes.attempt(async () => {
    const bin = await call('GET /bin', { query: words.value ? { words: words.value } : {} })
    items.value = bin.items
    total.value = bin.total
  })
}
onMounted(load)
whenChanged(() => void load())

async function bringBack(refs: readonly string[]): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    const { refs: back } = await call('POST /bin/bring-back', { body: { refs: [...refs] } })
    notes.show(
      'well',
      `${back.length === 1 ? firstIn(back) : counted(back.length, 'item')} brought back.`,
    )
  })
  if (wentWell) await load()
}
</script>

<template>
  <section class="sheet">
    <h1>Bin</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / what was deleted comes back from here for 30 days,
      with its links, its comments and what stands below it
    </p>
    <div class="acts bar">
      <InputText
        v-model="words"
        type="search"
        placeholder="words of a title, or a ref"
        aria-label="Find in the bin"
        @change="load"
      />
      <span v-if="items" class="quiet grow">{{
        total > items.length
          ? `the latest ${items.length} of ${counted(total, 'item')}`
          : counted(total, 'item')
      }}</span>
      <Button
        v-if="session.mayEdit && items && items.length > 1"
        severity="secondary"
        :label="`Bring all ${items.length} back`"
        @click="bringBack(items.map((row) => row.ref))"
      />
    </div>
    <Ledger
      v-if="items?.length"
      v-model:selected="selected"
      :rows="items"
      by="ref"
      label="Deleted items"
      @open="session.mayEdit && bringBack([$event.ref])"
    >
      <Column header="Ref" class="nowrap">
        <template #body="{ data: row }"
          ><span class="quiet">{{ row.ref }}</span></template
        >
      </Column>
      <Column header="Type">
        <template #body="{ data: row }"
          ><TypeMark :mark="String(row.type.mark)" :title="row.type.title"
        /></template>
      </Column>
      <Column header="Title" field="title" sortable />
      <Column header="Deleted by" field="by" sortable class="nowrap" />
      <Column header="When" field="at" sortable class="nowrap">
        <template #body="{ data: row }">{{ agoWords(row.at, session.now) }}</template>
      </Column>
      <Column header="Kept until" class="nowrap">
        <template #body="{ data: row }">{{ dayWords(row.until, session.now) }}</template>
      </Column>
      <Column v-if="session.mayEdit">
        <template #header><span class="seen-not">Acts</span></template>
        <template #body="{ data: row }"
          ><Button
            variant="link"
            label="bring back"
            :aria-label="`Bring back ${row.ref}`"
            @click="bringBack([row.ref])"
        /></template>
      </Column>
    </Ledger>
    <p v-else-if="items && words" class="blank">Nothing in the bin has these words.</p>
    <p v-else-if="items" class="blank">
      The bin is empty. Items that somebody deletes stand here for 30 days, and come back by one
      act.
    </p>
  </section>
</template>

<style scoped>
.bar {
  margin: 10px 0;
  align-items: center;
}
</style>
