<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { entriesOf, fieldKinds, inOrder, orderKeys, type Edit, type FieldKind } from '@bluestem/core/definitions'
import Sheet from '../parts/Sheet.vue'
import { useDefinitions } from './definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const known = definitions.document.fields[id]
const types = computed(() => inOrder(definitions.document.types))
const entries = entriesOf(definitions.document, definitions.rulebook)
const formKey = (type: string): string => `form:${type}:item:${id}`
const form = reactive({ title: known?.title ?? '', handle: known?.handle ?? '', kind: (known?.kind ?? 'text') as FieldKind, description: known?.description ?? '', unit: known?.unit ?? '', decimals: known?.decimals ?? 0 })
const options = ref(known?.options ? inOrder(known.options).map((option) => ({ id: option.id, title: option.title, order: option.order, description: option.description })) : [])
const fresh = ref('')
const on = ref(types.value.filter((type) => entries.has(formKey(type.id))).map((type) => type.id))
const touchedHandle = ref(Boolean(known))
const busy = ref(false)
const choice = computed(() => form.kind === 'choice' || form.kind === 'several choices')

/** A handle is proposed from the title until somebody writes one. */
watch(() => form.title, (title) => { if (!touchedHandle.value) form.handle = title.toLowerCase().normalize('NFD').replace(/[^a-z0-9]+/g, '_').replace(/^[_0-9]+|_+$/g, '').slice(0, 40) })

function addOption(): void {
  const title = fresh.value.trim()
  if (title) options.value.push({ id: definitions.newId('option'), title, order: '', description: '' })
  fresh.value = ''
}

function value(): object {
  const keys = orderKeys(options.value.length)
  return {
    order: known?.order ?? definitions.lastOrder(definitions.document.fields), title: form.title, handle: form.handle, kind: form.kind, description: form.description,
    ...(form.kind === 'number' ? { ...(form.unit ? { unit: form.unit } : {}), decimals: form.decimals } : {}),
    ...(choice.value ? { options: Object.fromEntries(options.value.map((option, index) => [option.id, { order: keys[index]!, title: option.title, description: option.description }])) } : {}),
  }
}

async function keep(): Promise<void> {
  busy.value = true
  addOption()
  const field = known ? id : definitions.newId('fields')
  const whole = value() as Record<string, unknown>
  const edits: Edit[] = known
    ? ['title', 'description', 'unit', 'decimals', 'options'].filter((part) => whole[part] !== undefined || (known as Record<string, unknown>)[part] !== undefined).map((part) => ({ path: ['fields', field, part], after: whole[part] }))
    : [{ path: ['fields', field], after: whole }]
  for (const type of types.value) {
    const key = `form:${type.id}:item:${field}`
    const [wanted, there] = [on.value.includes(type.id), entries.has(key)]
    const last = [...entries].filter(([one]) => one.startsWith(`form:${type.id}:item:`)).map(([, entry]) => ({ order: entry.order ?? '' }))
    if (wanted && !there) edits.push({ path: ['rulebooks', definitions.rulebook, 'entries', key], after: { order: definitions.lastOrder(Object.fromEntries(last.map((one, index) => [String(index), one]))), section: 'Particulars' } })
    if (!wanted && there) edits.push({ path: ['rulebooks', definitions.rulebook, 'entries', key] })
  }
  if (await definitions.edit(edits)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New field'" wide @close="emit('close')">
    <form @submit.prevent="keep">
      <div class="row"><label class="field grow"><span>Title</span><input v-model="form.title" type="text" required maxlength="80" autofocus></label><label class="field grow"><span>Handle: its name in queries, for ever</span><input v-model="form.handle" type="text" class="code" required maxlength="40" pattern="[a-z][a-z0-9_]*" :disabled="Boolean(known)" @input="touchedHandle = true"></label></div>
      <label class="field"><span>Kind</span><select v-model="form.kind" :disabled="Boolean(known)"><option v-for="kind in fieldKinds" :key="kind">{{ kind }}</option></select></label>
      <div v-if="form.kind === 'number'" class="row"><label class="field grow"><span>Unit</span><input v-model="form.unit" type="text" maxlength="12"></label><label class="field grow"><span>Decimals</span><input v-model.number="form.decimals" type="number" min="0" max="6"></label></div>
      <div v-if="choice" class="field">
        <span>Options, in their order</span>
        <div v-for="(option, index) in options" :key="option.id" class="row option"><input v-model="option.title" type="text" :aria-label="`Option ${index + 1}`" maxlength="80"><button class="plain" type="button" :disabled="index === 0" :aria-label="`${option.title} further up`" @click="options.splice(index - 1, 2, options[index]!, options[index - 1]!)">↑</button><button v-if="!known?.options?.[option.id]" class="plain" type="button" :aria-label="`Take ${option.title} away`" @click="options.splice(index, 1)">×</button></div>
        <div class="row option"><input v-model="fresh" type="text" aria-label="New option" placeholder="add an option" maxlength="80" @keydown.enter.prevent="addOption"><button class="plain" type="button" @click="addOption">add</button></div>
      </div>
      <label class="field"><span>When to use it, who fills it</span><textarea v-model="form.description" rows="2" maxlength="2000" /></label>
      <fieldset class="field"><legend class="quiet">On the forms of</legend><label v-for="type in types" :key="type.id"><input v-model="on" type="checkbox" :value="type.id"> {{ type.title }}</label></fieldset>
      <div class="acts"><button class="act main" type="submit" :disabled="busy">Put it in the draft</button><button class="act" type="button" @click="emit('close')">Not now</button></div>
    </form>
  </Sheet>
</template>

<style scoped>
fieldset { border: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 16px } legend { font-size: 13px; padding: 0 0 3px }
.option { margin-bottom: 4px }
</style>
