<script setup lang="ts">
import Button from 'primevue/button'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { isWriting } from '../parts/isWriting.ts'
import Sheet from '../parts/Sheet.vue'
import { useJots } from './jots.store.ts'
import JotLine from './JotLine.vue'

/** Jotting from anywhere: by the key, or by the button of the masthead. */
const open = defineModel<boolean>('open', { required: true })
const jots = useJots()
const route = useRoute()
const router = useRouter()
/** what was jotted since the sheet was opened */
const kept = ref<readonly string[]>([])

function listen(event: KeyboardEvent): void {
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  const isTaken = isWriting(event.target) || document.querySelector('[role=dialog]') !== null
  if (event.key !== 'j' || !isPlain || isTaken || route.path === '/jots') return
  event.preventDefault()
  open.value = true
}
onMounted(() => {
  window.addEventListener('keydown', listen)
  void jots.load().catch(() => undefined)
})
onBeforeUnmount(() => window.removeEventListener('keydown', listen))

function close(): void {
  open.value = false
  kept.value = []
}
function goFile(): void {
  close()
  void router.push('/jots')
}
</script>

<template>
  <Sheet v-if="open" title="Jot down" @close="close">
    <!-- What is kept is no longer lost by closing; what is not yet is one line. -->
    <div class="line" @input.stop @change.stop>
      <JotLine @kept="kept = [...kept, ...$event]" />
    </div>
    <ul v-if="kept.length" class="kept" aria-label="Just jotted">
      <li v-for="jot in jots.jots?.filter((row) => kept.includes(row.id)).slice(-8)" :key="jot.id">
        {{ jot.title }}
      </li>
    </ul>
    <div class="acts">
      <Button
        severity="secondary"
        :label="`File ${jots.count} unfiled …`"
        :disabled="jots.count === 0"
        @click="goFile"
      />
      <Button severity="secondary" label="Done" @click="close" />
    </div>
  </Sheet>
</template>

<style scoped>
.line {
  padding: 3px;
  margin: -3px;
}
.kept {
  margin: 8px 0 14px;
  padding: 0;
  list-style: none;
}
.kept li {
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
}
</style>
