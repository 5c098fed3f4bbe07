<script setup lang="ts">
import { reactive, ref } from 'vue'
import { inOrder, orderBetween, type Edit, type Ordered } from '@bluestem/core/definitions'
import Sheet from '../parts/Sheet.vue'
import { useDefinitions } from './definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const known = definitions.document.priorities[id]
const ladder = inOrder(definitions.document.ladders)[0]
const form = reactive({ title: known?.title ?? '', urgency: known?.urgency ?? 3, description: known?.description ?? '' })
const joins = ref(false)
const busy = ref(false)

async function keep(): Promise<void> {
  busy.value = true
  const edits: Edit[] = []
  if (known) for (const part of ['title', 'urgency', 'description'] as const) edits.push({ path: ['priorities', id, part], after: form[part] })
  else {
    const made = definitions.newId('priorities')
    edits.push({ path: ['priorities', made], after: { order: definitions.lastOrder(definitions.document.priorities), ...form } })
    if (joins.value && ladder) edits.push({ path: ['ladders', ladder.id, 'rungs', made], after: { order: orderBetween(inOrder<Ordered>(ladder.rungs).at(-1)?.order ?? null, null) } })
  }
  if (await definitions.edit(edits)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New priority'" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"><span>Title</span><input v-model="form.title" type="text" required maxlength="80" autofocus></label>
      <label class="field"><span>Urgency, which means the same for everybody</span><select v-model.number="form.urgency"><option v-for="one in 5" :key="one" :value="one">{{ one }}{{ one === 1 ? '  the most urgent' : one === 5 ? '  the least urgent' : '' }}</option></select></label>
      <label class="field"><span>When to use it</span><textarea v-model="form.description" rows="2" maxlength="2000" /></label>
      <label v-if="!known && ladder" class="field"><input v-model="joins" type="checkbox"> put it on the ladder {{ ladder.title }}, as its last rung: {{ Object.keys(definitions.document.projects).length }} projects are then offered it</label>
      <div class="acts"><button class="act main" type="submit" :disabled="busy">Put it in the draft</button><button class="act" type="button" @click="emit('close')">Not now</button></div>
    </form>
  </Sheet>
</template>
