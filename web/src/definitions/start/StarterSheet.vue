<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import {
  type DefinitionsDocument,
  diff,
  inOrder,
  type Section,
  sections,
} from '@bluestem/core/definitions'
import { type Starter, takeOver } from '@bluestem/core/starters'
import { call } from '../../api/http.ts'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** What a starter rulebook brings, and the one act that takes it over into a draft. */
const { starter } = defineProps<{ starter: Starter }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const notes = useNotes()
const document = ref<DefinitionsDocument>()
const busy = ref(false)
onMounted(async () => {
  document.value = await starter.load()
})

const edits = computed(() =>
  document.value
    ? diff(definitions.published, takeOver(definitions.published, document.value))
    : [],
)
const heads: Partial<Record<Section, string>> = {
  types: 'Types',
  statuses: 'Statuses',
  priorities: 'Priorities',
  fields: 'Fields',
  limits: 'Time limits',
  linkKinds: 'Links',
}
const brought = computed(() =>
  sections
    .map((section) => ({
      head: heads[section] ?? '',
      entries: inOrder<{ order: string; title: string; description: string }>(
        document.value?.[section] ?? {},
      ),
    }))
    .filter(({ head, entries }) => head !== '' && entries.length > 0),
)
const file = computed(
  () =>
    `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(document.value, null, 2))}`,
)

async function take(): Promise<void> {
  busy.value = true
  const done = await notes.attempt(async () => {
    const draft = await call('POST /definitions/drafts', {
      body: {
        title: starter.title,
        edits: edits.value.map(({ path, after }) => ({ path, after })),
      },
    })
    definitions.chosenDraft = draft.id
    await definitions.load()
    notes.show(
      'well',
      `“${starter.title}” waits in a draft. Change what you like, then publish it.`,
    )
  })
  busy.value = false
  if (done) emit('close')
}
</script>

<template>
  <Sheet :title="starter.title" wide @close="emit('close')">
    <p>{{ starter.about }}</p>
    <div class="acts">
      <Button
        :disabled="busy || edits.length === 0"
        autofocus
        label="Take it over"
        @click="take"
      /><Button
        as="a"
        severity="secondary"
        :href="file"
        :download="`${starter.id}.json`"
        label="Export as a file"
      /><Button severity="secondary" label="Not now" @click="emit('close')" />
    </div>
    <template v-for="{ head, entries } in brought" :key="head">
      <h3>{{ head }}</h3>
      <dl class="brought">
        <template v-for="entry in entries" :key="entry.id"
          ><dt>{{ entry.title }}</dt>
          <dd class="quiet">{{ entry.description }}</dd></template
        >
      </dl>
    </template>
    <p v-if="document && edits.length === 0" class="quiet">All of it is there already.</p>
  </Sheet>
</template>

<style scoped>
.brought {
  display: grid;
  grid-template-columns: minmax(140px, 200px) 1fr;
  gap: 3px 14px;
  margin: 0 0 6px;
  font-size: 13.5px;
}
.brought dd {
  margin: 0;
}
h3 {
  margin: 12px 0 4px;
}
h3:first-of-type {
  margin-top: 18px;
}
</style>
