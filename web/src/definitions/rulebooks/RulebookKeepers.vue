<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { call, callForVersion } from '../../api/http.ts'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import PeopleChoice from '../people/PeopleChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** Who keeps a rulebook: they may publish what touches it alone, and look after its templates. */
const { rulebook } = defineProps<{ rulebook: string }>()
const definitions = useDefinitions()
const notes = useNotes()
const keepers = ref<readonly ShownChoice[]>([])
const chosen = ref<readonly string[]>([])
const editing = ref(false)
const etag = ref('')
async function read(): Promise<void> {
  const answered = await callForVersion('GET /definitions/rulebooks/{id}/keepers', {
    params: { id: rulebook },
  }).catch(() => ({ body: { keepers: [] }, etag: '' }))
  keepers.value = answered.body.keepers
  etag.value = answered.etag
}
watch(() => rulebook, read, { immediate: true })
function open(): void {
  chosen.value = keepers.value.map((keeper) => keeper.id)
  editing.value = true
}
async function keep(): Promise<void> {
  if (
    !(await notes.attempt(
      async () =>
        void (await call('PATCH /definitions/rulebooks/{id}/keepers', {
          params: { id: rulebook },
          body: { keepers: chosen.value },
          match: etag.value,
        })),
    ))
  )
    return
  editing.value = false
  await read()
}
</script>

<template>
  <h3>Kept by</h3>
  <p>{{ keepers.map((one) => one.title).join(', ') || 'the administrators alone' }}</p>
  <Button
    variant="link"
    v-if="definitions.mayDefineAll && definitions.published.rulebooks[rulebook]"
    @click="open"
    label="choose its keepers"
  />
  <Sheet
    v-if="editing"
    :title="`Keepers of ${definitions.document.rulebooks[rulebook]?.title}`"
    @close="editing = false"
  >
    <form @submit.prevent="keep">
      <p class="quiet">
        They may publish what touches this rulebook alone, and look after its templates.
      </p>
      <PeopleChoice v-model="chosen" legend="People" />
      <div class="acts">
        <Button type="submit" label="Keep" /><Button
          severity="secondary"
          @click="editing = false"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>
