<script setup lang="ts">
import type { VersionAnswer, WholeItemAnswer } from '@bluestem/core/work'
import { onBeforeUnmount, ref, watch } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import Margin from '../parts/Margin.vue'
import StatusMark from '../parts/StatusMark.vue'
import { agoWords, momentWords } from '../parts/words.ts'
import HistoryWords from '../parts/HistoryWords.vue'

/** What is selected in a list: what it is, where it stands, what happened last. */
const { itemRef } = defineProps<{ itemRef: string | undefined }>()
const session = useSession()
const item = ref<WholeItemAnswer>()
const versions = ref<readonly VersionAnswer[]>([])
let timer = 0

onBeforeUnmount(() => window.clearTimeout(timer))

/** Reads an item; of one that is gone meanwhile nothing is told. */
async function read(of: string): Promise<void> {
  try {
    const [entry, past] = await Promise.all([
      call('GET /items/{code}/{number}', { params: partsOf(of) }),
      call('GET /items/{code}/{number}/history', { params: partsOf(of) }),
    ])
    item.value = entry
    versions.value = past.versions.toReversed().slice(0, 5)
  } catch {
    item.value = undefined
  }
}

watch(
  () => itemRef,
  (ref_) => {
    window.clearTimeout(timer)
    if (!ref_) return void (item.value = undefined)
    // Whoever steps through a list quickly asks only for where they stop.
    timer = window.setTimeout(() => void read(ref_), 120)
  },
  { immediate: true },
)
</script>

<template>
  <Margin>
    <template v-if="item">
      <h2>{{ item.title }}</h2>
      <div class="quiet">
        <RouterLink :to="`/work/${item.ref}`">{{ item.ref }}</RouterLink> · {{ item.type.title }}
      </div>
      <h3>Where it stands</h3>
      <div class="line">
        <StatusMark :status="item.status" /><span class="quiet"
          >since {{ agoWords(item.statusSince, session.now) }}</span
        >
      </div>
      <div v-if="item.on_hold" class="line warn">
        <span>on hold</span><span>{{ item['hold_reason'] }}</span>
      </div>
      <div v-if="item.children.length" class="line">
        <span>below it</span
        ><span
          >{{ item.children.filter((child) => child.status.mark === 'done').length }} of
          {{ item.children.length }} done</span
        >
      </div>
      <p v-if="item['description']" class="told-of">{{ item['description'] }}</p>
      <h3>What happened last</h3>
      <div v-for="version in versions" :key="version.from" class="line past">
        <span class="quiet">{{ momentWords(version.from, session.now) }}</span><HistoryWords
          :version="version"
        />
      </div>
    </template>
    <p v-else class="quiet">Select an item to read here where it stands and what happened to it.</p>
  </Margin>
</template>

<style scoped>
.told-of {
  margin-top: 10px;
  font-family: var(--serif);
  font-size: 14.5px;
}
.past {
  justify-content: flex-start;
}
.line.past > :last-child:not(:first-child) {
  text-align: left;
}
.past > :first-child {
  flex: none;
  width: 82px;
}
.past > :last-child {
  text-align: left;
}
</style>
