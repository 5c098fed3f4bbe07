<script setup lang="ts">
import type { BulkAnswer } from '@bluestem/core/bulk'
import Button from 'primevue/button'
import Column from 'primevue/column'
import ProgressBar from 'primevue/progressbar'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { onChange } from '../api/live.ts'
import { useSession } from '../session/session.store.ts'
import Ledger from '../parts/Ledger.vue'
import Margin from '../parts/Margin.vue'
import { useNotes } from '../parts/notes.store.ts'
import { counted, momentWords, numberWords } from '../parts/words.ts'
import BulkRefusals from './BulkRefusals.vue'
import { follow, outcomeWords, undo } from './many.ts'

/** The changes of many items that one made in the last 30 days: how far they are, what was refused, and the way back. */
const session = useSession()
const notes = useNotes()
const changes = ref<readonly BulkAnswer[]>()
const selected = ref<string>()
const chosen = computed(() => changes.value?.find((change) => change.id === selected.value))

async function load(): Promise<void> {
  await notes.attempt(async () => {
    changes.value = (await call('GET /bulk')).bulk
    selected.value ??= changes.value[0]?.id
  })
}
onMounted(load)
const stop = onChange(({ kind }) => {
  if (kind === 'bulk' || kind === 'everything') void load()
})
onBeforeUnmount(stop)

const isGoing = ({ state }: BulkAnswer): boolean => state !== 'done' && state !== 'cancelled'
const titleOf = ({ undoes, words }: BulkAnswer): string =>
  `${undoes ? 'Undone: ' : ''}${words.join('; ')}`

async function takeBack({ id }: BulkAnswer): Promise<void> {
  await notes.attempt(async () => {
    notes.show('well', `Undone: ${outcomeWords(await undo(id, () => void load()))}`)
  })
  await load()
}
async function cancel({ id }: BulkAnswer): Promise<void> {
  await notes.attempt(async () => {
    await follow(await call('DELETE /bulk/{id}', { params: { id } }), () => void load())
  })
  await load()
}
</script>

<template>
  <section class="sheet">
    <h1>Changes of many</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / what you changed many items by in the last 30 days;
      each can be undone as a whole
    </p>
    <Ledger
      v-if="changes?.length"
      v-model:selected="selected"
      :rows="changes"
      label="Changes of many items"
    >
      <Column header="What it does">
        <template #body="{ data: row }">{{ titleOf(row) }}</template>
      </Column>
      <Column header="When" class="nowrap">
        <template #body="{ data: row }">{{ momentWords(row.at, session.now) }}</template>
      </Column>
      <Column header="Items" class="num">
        <template #body="{ data: row }">{{ numberWords(row.total) }}</template>
      </Column>
      <Column header="How it stands">
        <template #body="{ data: row }">
          <template v-if="isGoing(row)">
            <ProgressBar
              :value="Math.round((100 * row.done) / Math.max(1, row.total))"
              :show-value="false"
              aria-label="How far it is"
            />
            <span class="quiet"
              >{{ row.state }}: {{ numberWords(row.done) }} of
              {{ counted(row.total, 'item') }}</span
            >
          </template>
          <span v-else>{{ outcomeWords(row) }}</span>
        </template>
      </Column>
      <Column>
        <template #body="{ data: row }">
          <Button
            v-if="row.undoable"
            variant="link"
            label="undo"
            :aria-label="`Undo: ${titleOf(row)}`"
            @click="takeBack(row)"
          />
          <Button
            v-if="isGoing(row) && !row.undoes"
            variant="link"
            label="cancel"
            :aria-label="`Cancel: ${titleOf(row)}`"
            @click="cancel(row)"
          />
        </template>
      </Column>
    </Ledger>
    <p v-else-if="changes" class="blank">
      Nothing was changed this way yet. Choose several rows of a list, or all its answers, and
      change them at once: it stands here with what was refused, and can be undone.
    </p>
  </section>
  <Margin>
    <template v-if="chosen">
      <h2>{{ titleOf(chosen) }}</h2>
      <div class="quiet">{{ momentWords(chosen.at, session.now) }}</div>
      <p>{{ isGoing(chosen) ? chosen.state : outcomeWords(chosen) }}</p>
      <h3 v-if="chosen.refused.length">Refused</h3>
      <BulkRefusals :refused="chosen.refused" />
    </template>
  </Margin>
</template>
