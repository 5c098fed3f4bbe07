<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { entriesOf, inOrder, type Edit } from '@bluestem/core/definitions'
import Sheet from '../parts/Sheet.vue'
import { useDefinitions } from './definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const known = definitions.document.types[id]
const types = computed(() => inOrder(definitions.document.types))
const form = reactive({ title: known?.title ?? '', monogram: known?.monogram ?? '', tier: known?.tier ?? 1, description: known?.description ?? '' })
const like = ref(types.value.find((type) => type.title === 'Job')?.id ?? types.value[0]?.id ?? '')
const busy = ref(false)

/** A new type begins with the flow and the forms of another; the grid changes them after. */
function entriesLike(type: string): Edit[] {
  const prefixed = /^(type|status|move|form):([^:]+)/
  return [...entriesOf(definitions.document, definitions.rulebook)].flatMap(([key, entry]): Edit[] => {
    const [, kind, of] = prefixed.exec(key) ?? []
    return kind && of === like.value ? [{ path: ['rulebooks', definitions.rulebook, 'entries', key.replace(`${kind}:${of}`, `${kind}:${type}`)], after: entry }] : []
  })
}

async function keep(): Promise<void> {
  busy.value = true
  const edits: Edit[] = []
  if (known) for (const part of ['title', 'monogram', 'tier', 'description'] as const) edits.push({ path: ['types', id, part], after: form[part] })
  else {
    const made = definitions.newId('types')
    edits.push({ path: ['types', made], after: { order: definitions.lastOrder(definitions.document.types), ...form } }, ...(like.value ? entriesLike(made) : []))
  }
  if (await definitions.edit(edits)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New type'" @close="emit('close')">
    <form @submit.prevent="keep">
      <div class="row"><label class="field grow"><span>Title</span><input v-model="form.title" type="text" required maxlength="80" autofocus></label><label class="field mono"><span>Two letters</span><input v-model="form.monogram" type="text" required maxlength="2" pattern="\p{Lu}\p{Ll}" title="A capital and a small letter, such as De"></label></div>
      <label class="field"><span>Tier</span><select v-model.number="form.tier"><option v-for="tier in [0, 1, 2, 3, 4]" :key="tier" :value="tier">{{ tier }}{{ ['  the smallest', '', '', '', '  the largest'][tier] }}</option></select></label>
      <label class="field"><span>When to use it</span><textarea v-model="form.description" rows="2" maxlength="2000" /></label>
      <label v-if="!known && types.length" class="field"><span>Begins with the flow and the forms of</span><select v-model="like"><option v-for="type in types" :key="type.id" :value="type.id">{{ type.title }}</option></select></label>
      <div class="acts"><button class="act main" type="submit" :disabled="busy">Put it in the draft</button><button class="act" type="button" @click="emit('close')">Not now</button></div>
    </form>
  </Sheet>
</template>

<style scoped>
.mono { width: 90px }
</style>
