<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import Checkbox from 'primevue/checkbox'
import { reactive, ref } from 'vue'
import {
  inOrder,
  orderBetween,
  projectsOnLadder,
  type Edit,
  type Ordered,
} from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const known = definitions.document.priorities[id]
const ladders = inOrder(definitions.document.ladders).filter((ladder) => !ladder.retired)
const form = reactive({
  title: known?.title ?? '',
  urgency: known?.urgency ?? 3,
  description: known?.description ?? '',
})
// A new priority joins no ladder by itself: each one it is to stand on is ticked.
const joins = ref<string[]>([])
const busy = ref(false)

function edits(): Edit[] {
  if (known)
    return (['title', 'urgency', 'description'] as const).map((part) => ({
      path: ['priorities', id, part],
      after: form[part],
    }))
  const made = definitions.newId('priorities')
  return [
    {
      path: ['priorities', made],
      after: { order: definitions.lastOrder(definitions.document.priorities), ...form },
    },
    ...ladders
      .filter((ladder) => joins.value.includes(ladder.id))
      .map((ladder): Edit => ({
        path: ['ladders', ladder.id, 'rungs', made],
        after: { order: orderBetween(inOrder<Ordered>(ladder.rungs).at(-1)?.order ?? null, null) },
      })),
  ]
}

async function keep(atOnce = false): Promise<void> {
  busy.value = true
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The priority ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    emit('close')
  busy.value = false
}
const urgencies = [
  { id: 1, title: '1  the most urgent' },
  { id: 2, title: '2' },
  { id: 3, title: '3' },
  { id: 4, title: '4' },
  { id: 5, title: '5  the least urgent' },
]
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New priority'" @close="emit('close')">
    <form @submit.prevent="keep()">
      <label class="field"
        ><span>Title</span><InputText v-model="form.title" required maxlength="80" autofocus fluid
      /></label>
      <label class="field"
        ><span>Urgency, which means the same for everybody</span
        ><Choice v-model="form.urgency" label="Urgency" :options="urgencies"
      /></label>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <fieldset v-if="!known && ladders.length" class="field">
        <legend>Put it on the ladder, as the last rung</legend>
        <label v-for="ladder in ladders" :key="ladder.id"
          ><Checkbox v-model="joins" :value="ladder.id" /> {{ ladder.title }}:
          {{ counted(projectsOnLadder(definitions.document, ladder.id).length, 'project') }} would
          be offered it</label
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
