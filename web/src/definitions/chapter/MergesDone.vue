<script setup lang="ts">
import type { Merge } from '@bluestem/core/merges'
import Button from 'primevue/button'
import { computed, shallowRef, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import { dayWords, firstOf } from '../../parts/words.ts'
import { useLiving } from '../store/living.store.ts'
import { undoMerge } from './undoMerge.ts'

/** What was made one since the last edition, and can still be undone. */
const { kind } = defineProps<{ kind: Merge['kind'] }>()
const living = useLiving()
const session = useSession()
const merges = shallowRef<readonly Merge[]>([])
const shown = computed(() => merges.value.filter((merge) => merge.kind === kind).slice(0, 3))

async function load(): Promise<void> {
  if (session.mayEdit) ({ merges: merges.value } = await call('GET /merges'))
}
// What could be undone is only an offer: without an answer there is none.
watch(
  () => living[kind],
  () => void load().catch(() => (merges.value = [])),
  { immediate: true },
)
</script>

<template>
  <ul v-if="shown.length" class="quiet" aria-label="Made one since the last edition">
    <li v-for="entry in shown" :key="entry.id">
      {{
        firstOf(
          entry.from.map(({ title }) => `“${title}”`),
          3,
        )
      }}
      became “{{ entry.into.title }}” {{ dayWords(entry.at, session.now) }}, by {{ entry.by }}
      <Button variant="link" label="undo" @click="undoMerge(entry)" />
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  font-size: 13px;
}
</style>
