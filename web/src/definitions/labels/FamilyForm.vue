<script setup lang="ts">
import InputText from 'primevue/inputtext'
import RadioButton from 'primevue/radiobutton'
import Textarea from 'primevue/textarea'
import Checkbox from 'primevue/checkbox'
import { computed, reactive, ref } from 'vue'
import { entriesOf, inOrder, typesOf, type Edit } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** A family of labels: what it is for everyone, and what the rulebook at hand asks of it. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const known = definitions.document.families[id]
const entry = entriesOf(definitions.document, definitions.rulebook).get(`family:${id}`)
const form = reactive({
  title: known?.title ?? '',
  pick: known?.pick ?? 'many',
  description: known?.description ?? '',
})
const here = reactive({
  offered: !known || entry !== undefined,
  closed: entry?.closed ?? false,
  requiredFor: [...(entry?.requiredFor ?? [])],
})
const busy = ref(false)
const types = computed(() =>
  inOrder(definitions.document.types).filter((type) =>
    typesOf(definitions.document, definitions.rulebook).includes(type.id),
  ),
)
const may = computed(() => definitions.mayChange(definitions.rulebook))

function edits(): Edit[] {
  const family = known ? id : definitions.newId('families')
  const itself: Edit[] = known
    ? definitions.mayDefineAll
      ? (['title', 'pick', 'description'] as const).map((part) => ({
          path: ['families', id, part],
          after: form[part],
        }))
      : []
    : [
        {
          path: ['families', family],
          after: { order: definitions.lastOrder(definitions.document.families), ...form },
        },
      ]
  const said = here.offered
    ? {
        ...(here.closed ? { closed: true } : {}),
        ...(here.requiredFor.length ? { requiredFor: [...here.requiredFor] } : {}),
      }
    : null
  return [...itself, ...(may.value ? [definitions.sayEntry(`family:${family}`, said)] : [])]
}
async function keep(atOnce = false): Promise<void> {
  busy.value = true
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The family ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New family'" @close="emit('close')">
    <form @submit.prevent="keep()">
      <template v-if="definitions.mayDefineAll">
        <label class="field"
          ><span>Title</span
          ><InputText v-model="form.title" required maxlength="80" autofocus fluid
        /></label>
        <fieldset class="field">
          <legend>An item holds of this family</legend>
          <label
            ><RadioButton v-model="form.pick" name="pick" value="one" /> one label: a new one takes
            the place of the one before</label
          ><label
            ><RadioButton v-model="form.pick" name="pick" value="many" /> any number of them</label
          >
        </fieldset>
        <label class="field"
          ><span>When to use it</span
          ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
        </label>
      </template>
      <fieldset class="field">
        <legend>
          In rulebook {{ definitions.document.rulebooks[definitions.rulebook]?.title }}
        </legend>
        <label><Checkbox v-model="here.offered" binary /> offered</label
        ><label v-if="here.offered"
          ><Checkbox v-model="here.closed" binary /> closed: members make no labels in it</label
        >
      </fieldset>
      <fieldset v-if="here.offered" class="field">
        <legend>An item must hold one when it is of type</legend>
        <label v-for="type in types" :key="type.id"
          ><Checkbox v-model="here.requiredFor" :value="type.id" /> {{ type.title }}</label
        >
      </fieldset>
      <FormActs
        :busy="busy"
        :small="Boolean(known) && definitions.mayDefineAll"
        @close="emit('close')"
        @at-once="keep(true)"
      />
    </form>
  </Sheet>
</template>
