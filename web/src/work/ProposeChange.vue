<script setup lang="ts">
import { certain, entryOf } from '@bluestem/core/known'
import type { WholeItemAnswer } from '@bluestem/core/work'
import RadioButton from 'primevue/radiobutton'
import Choice from '../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import {
  entriesOf,
  fieldKinds,
  handleFor,
  hasPart,
  inOrder,
  isComputed,
  lastPlace,
  makeIdentity,
  orderBetween,
  prefixes,
  setEntry,
  type DefinitionsDocument,
  type Edit,
} from '@bluestem/core/definitions'
import { messageOf, call } from '../api/http.ts'
import Sheet from '../parts/Sheet.vue'
import { useNotes } from '../parts/notes.store.ts'

/** What a member wishes of the definitions, from where they miss it: a field on this form, or a better word. It waits in a draft for the keepers. */
const { item } = defineProps<{ item: WholeItemAnswer }>()
const emit = defineEmits<{ close: [] }>()
const notes = useNotes()
const document = ref<DefinitionsDocument>()
const wish = ref<'word' | 'field' | 'new field'>('word')
const [about, word] = [ref(''), ref('')]
const field = ref('')
const [title, kind, why] = [ref(''), ref<(typeof fieldKinds)[number]>('text'), ref('')]
const told = ref('')
onMounted(async () => {
  try {
    document.value = (await call('GET /definitions')).document
  } catch (error) {
    told.value = messageOf(error)
  }
})
const busy = ref(false)

const onForm = computed(() => {
  const whole = document.value
  if (!whole) return []
  return [...entriesOf(whole, item.rulebook).keys()].flatMap((key) => {
    const [what, type, which, id = ''] = key.split(':')
    const isOnForm = what === 'form' && type === item.type.id && which === 'item'
    return isOnForm && whole.fields[id] ? [id] : []
  })
})
/** what has a word that may be bettered: the item's type, its status, and the fields of its form */
const words = computed(() => {
  const whole = document.value
  if (!whole) return []
  return [
    { path: ['types', item.type.id], title: `type ${item.type.title}` },
    { path: ['statuses', item.status.id], title: `status ${item.status.title}` },
    ...onForm.value.map((id) => ({
      path: ['fields', id],
      title: `field ${entryOf(whole.fields, id).title}`,
    })),
  ]
})
const spare = computed(() =>
  document.value
    ? inOrder(document.value.fields).filter(
        (field) => !field.retired && !onForm.value.includes(field.id),
      )
    : [],
)

function edits(): { title: string; edits: Edit[] } {
  const whole = certain(document.value, 'document to propose a change of')
  const place = (id: string): Edit =>
    setEntry(whole, item.rulebook, `form:${item.type.id}:item:${id}`, {
      order: lastPlace(whole, item.rulebook, `form:${item.type.id}`),
    })
  if (wish.value === 'word') {
    const chosen = certain(
      words.value.find((word) => word.path.join() === about.value),
      'word to better',
    )
    return {
      title: `“${word.value.trim()}” for ${chosen.title}`,
      edits: [{ path: [...chosen.path, 'title'], after: word.value.trim() }],
    }
  }
  if (wish.value === 'field')
    return {
      title: `${entryOf(whole.fields, field.value).title} on ${item.type.title}`,
      edits: [place(field.value)],
    }
  const id = makeIdentity(prefixes.fields, crypto.getRandomValues(new Uint8Array(8)))
  const handle = handleFor(title.value) || 'field'
  const free = Object.values(whole.fields).some((field) => field.handle === handle)
    ? `${handle.slice(0, 34)}_${id.slice(-4)}`
    : handle
  return {
    title: `A field “${title.value.trim()}” on ${item.type.title}`,
    edits: [
      {
        path: ['fields', id],
        after: {
          order: orderBetween(inOrder(whole.fields).at(-1)?.order ?? null, null),
          title: title.value.trim(),
          handle: free,
          description: why.value.trim(),
          kind: kind.value,
        },
      },
      place(id),
    ],
  }
}
async function propose(): Promise<void> {
  busy.value = true
  try {
    await call('POST /definitions/proposals', { body: edits() })
    notes.show('well', 'Proposed. It waits in Definitions for whoever keeps this rulebook.')
    emit('close')
  } catch (error) {
    told.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <Sheet v-if="document || told" title="Propose a change" @close="emit('close')">
    <form v-if="document" @submit.prevent="propose">
      <fieldset class="field">
        <legend>What would be better</legend>
        <label><RadioButton v-model="wish" name="wish" value="word" /> another word</label
        ><label
          ><RadioButton v-model="wish" name="wish" value="field" /> a field that exists, on items of
          type {{ item.type.title }}</label
        ><label
          ><RadioButton v-model="wish" name="wish" value="new field" /> a field that nobody has
          yet</label
        >
      </fieldset>
      <template v-if="wish === 'word'"
        ><label class="field"
          ><span>Instead of</span
          ><Choice
            v-model="about"
            label="Instead of"
            none="choose …"
            :options="words.map((row) => ({ id: row.path.join(), title: row.title }))" /></label
        ><label class="field"
          ><span>Better</span><InputText v-model="word" required maxlength="80" fluid /></label
      ></template>
      <label v-else-if="wish === 'field'" class="field"
        ><span>Field</span
        ><Choice
          v-model="field"
          label="Field"
          none="choose …"
          :options="spare.map((row) => ({ id: row.id, title: row.title }))"
      /></label>
      <template v-else
        ><div class="row">
          <label class="field grow"
            ><span>Title</span><InputText v-model="title" required maxlength="80" fluid /></label
          ><label class="field"
            ><span>Kind</span
            ><Choice
              v-model="kind"
              label="Kind"
              :options="
                fieldKinds
                  .filter((each) => !isComputed(each) && !hasPart(each, 'options'))
                  .map((row) => ({ id: row, title: row }))
              "
          /></label>
        </div>
        <label class="field"
          ><span>What it is for</span
          ><Textarea v-model="why" rows="2" maxlength="2000" fluid /></label
      ></template>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <p class="quiet">
        Nothing changes until a keeper of the rulebook publishes it; they see your name with it.
      </p>
      <div class="acts foot">
        <Button type="submit" :disabled="busy" label="Propose it" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
    <p v-else class="told" role="alert">{{ told }}</p>
  </Sheet>
</template>

<style scoped>
fieldset label {
  flex: 1 0 100%;
}
.foot {
  margin-top: 12px;
}
</style>
