<script setup lang="ts">
import { X } from '@lucide/vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import { inOrder, type Edit, type TimeLimit } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A time limit: how long for whom, what starts, stops and ends its clock, and when to warn. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const living = useLiving()
const known = definitions.document.limits[id]
interface Row {
  kind: 'any' | 'urgency' | 'priority' | 'label'
  of: string
  hours: number
}
const rowOf = (entry: TimeLimit['allowances'][number]): Row => ({
  kind: entry.label ? 'label' : entry.priority ? 'priority' : entry.urgency ? 'urgency' : 'any',
  of: entry.label ?? entry.priority ?? String(entry.urgency ?? ''),
  hours: entry.minutes / 60,
})
const form = reactive({
  title: known?.title ?? '',
  description: known?.description ?? '',
  what: known?.what ?? 'resolve',
  warnAt: known?.warnAt ?? 75,
  starts: [...(known?.starts ?? [])],
  stops: [...(known?.stops ?? [])],
  ends: [...(known?.ends ?? [])],
})
const rows = ref<Row[]>(known ? known.allowances.map(rowOf) : [{ kind: 'any', of: '', hours: 8 }])
const told = ref('')
const busy = ref(false)
const statuses = computed(() =>
  inOrder(definitions.document.statuses).filter((status) => !status.retired),
)
const choices = computed(() => ({
  urgency: [1, 2, 3, 4, 5].map((entry) => ({ id: String(entry), title: `urgency ${entry}` })),
  priority: inOrder(definitions.document.priorities).filter((priority) => !priority.retired),
  label: living.labels.filter((label) => !label.retired),
}))

function edits(): Edit[] {
  const allowances = rows.value.map(({ kind, of, hours }) => ({
    ...(kind === 'urgency' ? { urgency: Number(of) } : kind === 'any' ? {} : { [kind]: of }),
    minutes: Math.max(1, Math.round(hours * 60)),
  }))
  const { starts, ...rest } = form
  const value = { ...rest, allowances, ...(starts.length ? { starts: [...starts] } : {}) }
  if (known)
    return (
      ['title', 'description', 'what', 'warnAt', 'starts', 'stops', 'ends', 'allowances'] as const
    ).map((part) => ({
      path: ['limits', id, part],
      after: part === 'starts' && starts.length === 0 ? undefined : value[part],
    }))
  const made = definitions.newId('limits')
  return [
    {
      path: ['limits', made],
      after: { order: definitions.lastOrder(definitions.document.limits), ...value },
    },
    definitions.sayEntry(`limit:${made}`, {}),
  ]
}
async function keep(atOnce = false): Promise<void> {
  told.value =
    form.ends.length === 0
      ? 'Tick at least one status that ends the clock.'
      : rows.value.some((row) => row.kind !== 'any' && !row.of)
        ? 'Choose what each allowance is for.'
        : ''
  if (told.value) return
  busy.value = true
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The time limit ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New time limit'" wide @close="emit('close')">
    <form @submit.prevent="keep()">
      <div class="row">
        <label class="field grow"
          ><span>Title</span
          ><InputText v-model="form.title" required maxlength="80" autofocus fluid /></label
        ><label class="field"
          ><span>How long until it is</span
          ><Choice
            v-model="form.what"
            label="How long until it is"
            :options="[
              { id: 'respond', title: 'answered' },
              { id: 'resolve', title: 'finished' },
            ]" /></label
        ><label class="field warns"
          ><span>Warn at, percent</span
          ><InputNumber v-model="form.warnAt" :min="1" :max="100" required fluid
        /></label>
      </div>
      <div class="field">
        <span>Allowed, in hours of working time; the first line that fits an item holds</span>
        <div v-for="(row, index) in rows" :key="index" class="row allowance">
          <span class="quiet">for</span>
          <Choice
            v-model="row.kind"
            :label="`Allowance ${index + 1} is for`"
            :options="[
              { id: 'any', title: 'anything' },
              { id: 'urgency', title: 'an urgency' },
              { id: 'priority', title: 'a priority' },
              { id: 'label', title: 'a label' },
            ]"
            inline
          />
          <Choice
            v-if="row.kind !== 'any'"
            v-model="row.of"
            :label="`Which ${row.kind}, allowance ${index + 1}`"
            none="choose …"
            :options="choices[row.kind].map((entry) => ({ id: entry.id, title: entry.title }))"
            inline
          />
          <InputNumber
            v-model="row.hours"
            :min="0.02"
            :max-fraction-digits="2"
            required
            class="hours"
            :aria-label="`Hours, allowance ${index + 1}`"
          /><span class="quiet">hours</span>
          <Button
            variant="text"
            severity="secondary"
            size="small"
            v-if="rows.length > 1"
            :aria-label="`Take allowance ${index + 1} out`"
            @click="rows.splice(index, 1)"
          >
            <X class="icon" />
          </Button>
        </div>
        <Button
          variant="link"
          @click="
            rows.splice(Math.max(0, rows.length - 1), 0, { kind: 'urgency', of: '', hours: 4 })
          "
          label="another allowance"
        />
      </div>
      <fieldset class="field">
        <legend>Its clock starts on entering (none ticked: when the item is made)</legend>
        <label v-for="status in statuses" :key="status.id"
          ><Checkbox v-model="form.starts" :value="status.id" /> {{ status.title }}</label
        >
      </fieldset>
      <fieldset class="field">
        <legend>It stands still in (and whenever an item is on hold)</legend>
        <label v-for="status in statuses" :key="status.id"
          ><Checkbox v-model="form.stops" :value="status.id" /> {{ status.title }}</label
        >
      </fieldset>
      <fieldset class="field">
        <legend>It ends on entering</legend>
        <label v-for="status in statuses" :key="status.id"
          ><Checkbox v-model="form.ends" :value="status.id" /> {{ status.title }}</label
        >
      </fieldset>
      <label class="field"
        ><span>What it is for</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <FormActs :busy="busy" :small="Boolean(known)" @close="emit('close')" @at-once="keep(true)" />
    </form>
  </Sheet>
</template>

<style scoped>
.warns {
  width: 120px;
}
.allowance {
  margin-bottom: 4px;
}
.hours {
  width: 90px;
}
</style>
