<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { ref } from 'vue'
import { ApiProblem, messageOf, type ProblemPart, call } from '../../api/http.ts'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** Definitions brought in from a file: what it would change is shown before anything is kept. */
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const file = ref<unknown>()
const name = ref('')
const changes = ref<readonly { readonly words: string }[]>()
const wrong = ref<readonly ProblemPart[]>([])
const told = ref('')
const busy = ref(false)

async function read(event: Event): Promise<void> {
  // It listens to a field for files alone.
  const chosen = (event.target as HTMLInputElement).files?.[0]
  changes.value = undefined
  wrong.value = []
  told.value = ''
  if (!chosen) return
  name.value = chosen.name
  try {
    file.value = JSON.parse(await chosen.text())
  } catch {
    told.value = `“${chosen.name}” is not JSON.`
    return
  }
  await attempt(async () => {
    changes.value = (await call('POST /definitions/differences', { body: file.value })).changes
  })
}
async function attempt(act: () => Promise<void>): Promise<void> {
  busy.value = true
  try {
    await act()
  } catch (error) {
    told.value = messageOf(error)
    wrong.value = error instanceof ApiProblem ? error.errors : []
  }
  busy.value = false
}
const keep = async (): Promise<void> =>
  await attempt(async () => {
    const body = await call('POST /definitions/import', { body: file.value })
    await definitions.load()
    if (body.draft) definitions.chosenDraft = body.draft.id
    emit('close')
  })
</script>

<template>
  <Sheet title="Definitions from a file" wide @close="emit('close')">
    <label class="field"
      ><span
        >A file as this chapter or the editions give it out: all definitions, or one rulebook</span
      ><input type="file" accept="application/json,.json" @change="read"
    /></label>
    <template v-if="told"
      ><p class="told" role="alert">{{ told }} Nothing was kept.</p>
      <DataTable
        v-if="wrong.length"
        :value="[...wrong.slice(0, 200)]"
        table-class="ledger"
        :table-props="{ 'aria-label': 'What the file would change' }"
        ><Column header="Where" class="code"
          ><template #body="{ data: entry }">{{ entry.pointer || '/' }}</template></Column
        >
        <Column header="What is wrong"
          ><template #body="{ data: entry }">{{ entry.message }}</template></Column
        >
        <Column header="Needed"
          ><template #body="{ data: entry }"
            ><span class="quiet">{{ entry.expected }}</span></template
          ></Column
        ></DataTable
      ></template
    >
    <template v-else-if="changes"
      ><p class="meta">
        {{
          changes.length
            ? `“${name}” would make ${counted(changes.length, 'change')}:`
            : `“${name}” says what holds already.`
        }}
      </p>
      <ol v-if="changes.length" class="words">
        <li v-for="(change, index) in changes.slice(0, 500)" :key="index">{{ change.words }}</li>
      </ol></template
    >
    <div class="acts">
      <Button
        :disabled="busy || !changes?.length"
        @click="keep"
        :label="
          changes?.length
            ? `Open a draft with ${counted(changes.length, 'change')}`
            : 'Open a draft'
        "
      /><Button severity="secondary" @click="emit('close')" label="Not now" />
    </div>
  </Sheet>
</template>

<style scoped>
.words {
  max-height: 44vh;
  overflow: auto;
  margin: 0 0 14px;
  padding-left: 26px;
  font-size: 13.5px;
}
.told {
  margin-bottom: 8px;
}
.ledger {
  margin-bottom: 14px;
}
</style>
