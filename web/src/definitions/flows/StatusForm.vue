<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Checkbox from 'primevue/checkbox'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import { flowOf, lastPlace, type Edit, type Status } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'

const { id, type } = defineProps<{ id: string; type: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const known = definitions.document.statuses[id]
const usualPhase: Status['phase'] = 'active'
const form = reactive({
  title: known?.title ?? '',
  phase: known?.phase ?? usualPhase,
  queue: known?.queue ?? false,
  description: known?.description ?? '',
})
const flow = flowOf(definitions.document, definitions.rulebook, type)
const active = flow.statuses.filter(
  (status) => definitions.document.statuses[status]?.phase === 'active',
)
const entered = ref((active.length > 0 ? active : flow.statuses).slice(0, 1))
const left = ref(
  flow.statuses
    .filter((status) => definitions.document.statuses[status]?.phase === 'done')
    .slice(0, 1),
)
const boards = definitions.boards.filter((board) => board.id !== '')
/** Boards that show this flow already are the ones a new status would be missed on. */
const placed = ref(
  boards
    .filter((board) => board.columns.filter((column) => flow.statuses.includes(column)).length > 1)
    .map((board) => board.id),
)
const used = computed(() => definitions.items(id))
const busy = ref(false)

function edits(): { edits: Edit[]; boards: { view: string; status: string }[] } {
  if (known)
    return {
      edits: (['title', 'phase', 'queue', 'description'] as const).map((part) => ({
        path: ['statuses', id, part],
        after: form[part],
      })),
      boards: [],
    }
  const made = definitions.newId('statuses')
  const order = lastPlace(definitions.document, definitions.rulebook, `status:${type}`)
  return {
    edits: [
      {
        path: ['statuses', made],
        after: { order: definitions.lastOrder(definitions.document.statuses), ...form },
      },
      // While the rulebook offers no type there is no flow to put it in. The first status of a flow is where items start.
      ...(type ? [definitions.sayEntry(`status:${type}:${made}`, { order })] : []),
      ...(type && !flow.start ? [definitions.sayEntry(`type:${type}`, { start: made })] : []),
      ...entered.value.map((from) => definitions.sayEntry(`move:${type}:${from}:${made}`, {})),
      ...left.value.map((to) => definitions.sayEntry(`move:${type}:${made}:${to}`, {})),
    ],
    boards: placed.value.map((view) => ({ view, status: made })),
  }
}

async function keep(atOnce = false): Promise<void> {
  busy.value = true
  const wanted = edits()
  if (
    atOnce
      ? await definitions.publishAtOnce(
          wanted.edits,
          known && known.title !== form.title
            ? `“${known.title}” is now called “${form.title}”.`
            : `The status ${form.title}.`,
          opened,
        )
      : await definitions.edit(wanted.edits, wanted.boards, opened)
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="
      known
        ? `Change ${known.title}`
        : `New status in the flow of ${definitions.document.types[type]?.title}`
    "
    @close="emit('close')"
  >
    <form @submit.prevent="keep()">
      <label class="field"
        ><span>Title</span><InputText v-model="form.title" required maxlength="80" autofocus fluid
      /></label>
      <div class="row">
        <label class="field grow"
          ><span>Phase</span
          ><Choice
            v-model="form.phase"
            label="Phase"
            :options="phases.map((phase) => ({ id: phase, title: phase }))" /></label
        ><label class="queue"
          ><Checkbox v-model="form.queue" binary /> a queue: work lies still in it</label
        >
      </div>
      <p v-if="known && used && form.phase !== known.phase" class="told">
        {{ counted(used, 'item') }} in it would be {{ form.phase }} from the moment this is
        published; what they were before stays in history.
      </p>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <template v-if="!known">
        <fieldset v-if="flow.statuses.length" class="field">
          <legend>Entered from</legend>
          <label v-for="status in flow.statuses" :key="status"
            ><Checkbox v-model="entered" :value="status" />
            {{ definitions.document.statuses[status]?.title }}</label
          >
        </fieldset>
        <fieldset v-if="flow.statuses.length" class="field">
          <legend>Left to</legend>
          <label v-for="status in flow.statuses" :key="status"
            ><Checkbox v-model="left" :value="status" />
            {{ definitions.document.statuses[status]?.title }}</label
          >
        </fieldset>
        <fieldset v-if="boards.length" class="field">
          <legend>A column on the boards</legend>
          <label v-for="board in boards" :key="board.id"
            ><Checkbox v-model="placed" :value="board.id" /> {{ board.title }}</label
          >
        </fieldset>
      </template>
      <FormActs
        :busy="busy"
        :small="Boolean(known) && definitions.mayDefineAll"
        @close="emit('close')"
        @at-once="keep(true)"
      />
    </form>
  </Sheet>
</template>

<style scoped>
.queue {
  padding-top: 12px;
}
</style>
