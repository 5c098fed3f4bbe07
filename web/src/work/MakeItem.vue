<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { ApiProblem, messageOf, post } from '../api/http.ts'
import type { Offers, WholeItem } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import FieldEditor from '../parts/FieldEditor.vue'
import Sheet from '../parts/Sheet.vue'
import TypeMark from '../parts/TypeMark.vue'

/** Making an item: a title and a type are enough; the form of the type offers what else is usually known. */
const { offers, given = {} } = defineProps<{ offers: Offers; given?: Readonly<Record<string, unknown>> }>()
const emit = defineEmits<{ close: []; made: [string] }>()
const vocabulary = useVocabulary()
const usual = offers.types.find((type) => type.title === 'Defect') ?? offers.types[0]!
const type = ref(String(given['type'] ?? usual.id))
const title = ref('')
const values = reactive<Record<string, unknown>>({ priority: offers.priority, ...given })
const told = ref<readonly string[]>([])
const busy = ref(false)
// One key for one intention: pressing twice, or a lost answer, makes one item.
const key = crypto.randomUUID()
const offered = computed(() => offers.types.find((one) => one.id === type.value)!)
const entries = computed(() => offered.value.make.flatMap((entry) => { const property = vocabulary.property(entry.handle); return property ? [{ entry, property }] : [] }))
watch(type, () => { told.value = [] })

async function make(): Promise<void> {
  busy.value = true
  const { type: _, status: __, ...rest } = { ...values } as Record<string, unknown>
  const shown = entries.value.map(({ entry }) => entry.handle)
  const custom = entries.value.filter(({ property }) => !property.builtIn).map(({ property }) => property.handle)
  const own = Object.fromEntries(Object.entries(rest).filter(([handle, value]) => value !== null && value !== undefined && (shown.includes(handle) || handle in given) && !custom.includes(handle)))
  const fields = Object.fromEntries(custom.filter((handle) => values[handle] !== undefined && values[handle] !== null).map((handle) => [handle, values[handle]]))
  try {
    const made = await post<WholeItem>('/items', { project: offers.code, type: type.value, title: title.value, ...own, ...(given['status'] ? { status: given['status'] } : {}), ...(Object.keys(fields).length ? { fields } : {}) }, { 'Idempotency-Key': key })
    emit('made', made.ref)
  } catch (error) {
    told.value = error instanceof ApiProblem && error.errors.length ? error.errors.map((one) => one.message) : [messageOf(error)]
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :title="`New item in ${offers.title}`" wide @close="emit('close')">
    <form @submit.prevent="make">
      <label class="field"><span>Title</span><input v-model="title" type="text" required maxlength="300" autofocus></label>
      <div class="field">
        <span id="type-label">Type</span>
        <div class="types" role="radiogroup" aria-labelledby="type-label">
          <label v-for="one in offers.types" :key="one.id" :class="{ chosen: one.id === type }" :title="one.description"><input v-model="type" type="radio" name="type" :value="one.id" class="seen-not"><TypeMark :mark="one.mark" :title="one.title" /> {{ one.title }}</label>
        </div>
        <p class="quiet">{{ offered.description }}</p>
      </div>
      <div class="pairs">
        <div v-for="{ entry, property } in entries" :key="entry.handle" class="field"><span>{{ property.title }}</span><FieldEditor :property="property" :value="values[entry.handle]" :choices="entry.handle === 'priority' ? offers.priorities : undefined" @change="values[entry.handle] = $event" /></div>
      </div>
      <p v-for="line in told" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts"><button class="act main" type="submit" :disabled="busy || !title.trim()">Make it</button><button class="act" type="button" @click="emit('close')">Not now</button></div>
    </form>
  </Sheet>
</template>

<style scoped>
.types { display: flex; flex-wrap: wrap; gap: 6px; margin-bottom: 4px }
.types label { border: 1px solid var(--hair); border-radius: var(--corner); padding: 3px 9px; cursor: pointer }
.types label.chosen { border-color: var(--stem); background: var(--stem-wash) }
.types label:focus-within { outline: 2px solid var(--stem); outline-offset: 2px }
.pairs { display: grid; grid-template-columns: 1fr 1fr; gap: 0 22px }
</style>
