<script setup lang="ts">
import { reactive, ref } from 'vue'
import { flowOf, type Edit, type Status } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import Sheet from '../parts/Sheet.vue'
import { useDefinitions } from './definitions.store.ts'

const { id, type } = defineProps<{ id: string; type: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const known = definitions.document.statuses[id]
const form = reactive({ title: known?.title ?? '', phase: (known?.phase ?? 'active') as Status['phase'], queue: known?.queue ?? false, description: known?.description ?? '' })
const flow = flowOf(definitions.document, definitions.rulebook, type)
const entered = ref(flow.statuses.filter((one) => definitions.document.statuses[one]?.phase === 'active').slice(0, 1))
const left = ref(flow.statuses.filter((one) => definitions.document.statuses[one]?.phase === 'done').slice(0, 1))
const used = (definitions.usage?.items[id] ?? 0) > 0
const busy = ref(false)

async function keep(): Promise<void> {
  busy.value = true
  const edits: Edit[] = []
  if (known) for (const part of ['title', 'phase', 'queue', 'description'] as const) edits.push({ path: ['statuses', id, part], after: form[part] })
  else {
    const made = definitions.newId('statuses')
    const entries = definitions.document.rulebooks[definitions.rulebook]!.entries
    const orders = Object.fromEntries(flow.statuses.map((one) => [one, { order: (entries[`status:${type}:${one}`] as { order: string }).order }]))
    const path = (key: string): string[] => ['rulebooks', definitions.rulebook, 'entries', key]
    edits.push({ path: ['statuses', made], after: { order: definitions.lastOrder(definitions.document.statuses), ...form } }, { path: path(`status:${type}:${made}`), after: { order: definitions.lastOrder(orders) } })
    for (const from of entered.value) edits.push({ path: path(`move:${type}:${from}:${made}`), after: {} })
    for (const to of left.value) edits.push({ path: path(`move:${type}:${made}:${to}`), after: {} })
  }
  if (await definitions.edit(edits)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : `New status in the flow of ${definitions.document.types[type]?.title}`" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"><span>Title</span><input v-model="form.title" type="text" required maxlength="80" autofocus></label>
      <div class="row"><label class="field grow"><span>Phase</span><select v-model="form.phase" :disabled="used"><option v-for="phase in phases" :key="phase">{{ phase }}</option></select></label><label class="queue"><input v-model="form.queue" type="checkbox"> a queue: work lies still in it</label></div>
      <label class="field"><span>When to use it</span><textarea v-model="form.description" rows="2" maxlength="2000" /></label>
      <template v-if="!known">
        <fieldset class="field"><legend class="quiet">Entered from</legend><label v-for="one in flow.statuses" :key="one"><input v-model="entered" type="checkbox" :value="one"> {{ definitions.document.statuses[one]?.title }}</label></fieldset>
        <fieldset class="field"><legend class="quiet">Left to</legend><label v-for="one in flow.statuses" :key="one"><input v-model="left" type="checkbox" :value="one"> {{ definitions.document.statuses[one]?.title }}</label></fieldset>
      </template>
      <p v-if="used" class="quiet">Items stand in it, so its phase stays: figures already reported rest on it.</p>
      <div class="acts"><button class="act main" type="submit" :disabled="busy">Put it in the draft</button><button class="act" type="button" @click="emit('close')">Not now</button></div>
    </form>
  </Sheet>
</template>

<style scoped>
fieldset { border: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 16px } legend { font-size: 13px; padding: 0 0 3px } .queue { padding-top: 12px }
</style>
