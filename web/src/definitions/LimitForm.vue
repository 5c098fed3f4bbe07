<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { inOrder, type Edit, type TimeLimit } from '@bluestem/core/definitions'
import Sheet from '../parts/Sheet.vue'
import FormActs from './FormActs.vue'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

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
const rowOf = (one: TimeLimit['allowances'][number]): Row => ({
  kind: one.label ? 'label' : one.priority ? 'priority' : one.urgency ? 'urgency' : 'any',
  of: one.label ?? one.priority ?? String(one.urgency ?? ''),
  hours: one.minutes / 60,
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
  inOrder(definitions.document.statuses).filter((one) => !one.retired),
)
const choices = computed(() => ({
  urgency: [1, 2, 3, 4, 5].map((one) => ({ id: String(one), title: `urgency ${one}` })),
  priority: inOrder(definitions.document.priorities).filter((one) => !one.retired),
  label: living.labels.filter((one) => !one.retired),
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
      : rows.value.some((one) => one.kind !== 'any' && !one.of)
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
          ><input v-model="form.title" type="text" required maxlength="80" autofocus /></label
        ><label class="field"
          ><span>How long until it is</span
          ><select v-model="form.what">
            <option value="respond">answered</option>
            <option value="resolve">finished</option>
          </select></label
        ><label class="field warns"
          ><span>Warn at, percent</span
          ><input v-model.number="form.warnAt" type="number" min="1" max="100" required
        /></label>
      </div>
      <div class="field">
        <span>Allowed, in hours of working time; the first line that fits an item holds</span>
        <div v-for="(row, index) in rows" :key="index" class="row allowance">
          <span class="quiet">for</span>
          <select
            v-model="row.kind"
            :aria-label="`Allowance ${index + 1} is for`"
            @change="row.of = ''"
          >
            <option value="any">anything</option>
            <option value="urgency">an urgency</option>
            <option value="priority">a priority</option>
            <option value="label">a label</option>
          </select>
          <select
            v-if="row.kind !== 'any'"
            v-model="row.of"
            :aria-label="`Which ${row.kind}, allowance ${index + 1}`"
          >
            <option value="">choose …</option>
            <option v-for="one in choices[row.kind]" :key="one.id" :value="one.id">
              {{ one.title }}
            </option>
          </select>
          <input
            v-model.number="row.hours"
            type="number"
            min="0.02"
            step="any"
            required
            class="hours"
            :aria-label="`Hours, allowance ${index + 1}`"
          /><span class="quiet">hours</span>
          <button
            v-if="rows.length > 1"
            class="plain"
            type="button"
            :aria-label="`Take allowance ${index + 1} out`"
            @click="rows.splice(index, 1)"
          >
            ×
          </button>
        </div>
        <button
          class="plain"
          type="button"
          @click="
            rows.splice(Math.max(0, rows.length - 1), 0, { kind: 'urgency', of: '', hours: 4 })
          "
        >
          another allowance
        </button>
      </div>
      <fieldset class="field">
        <legend>Its clock starts on entering (none ticked: when the item is made)</legend>
        <label v-for="one in statuses" :key="one.id"
          ><input v-model="form.starts" type="checkbox" :value="one.id" /> {{ one.title }}</label
        >
      </fieldset>
      <fieldset class="field">
        <legend>It stands still in (and whenever an item is on hold)</legend>
        <label v-for="one in statuses" :key="one.id"
          ><input v-model="form.stops" type="checkbox" :value="one.id" /> {{ one.title }}</label
        >
      </fieldset>
      <fieldset class="field">
        <legend>It ends on entering</legend>
        <label v-for="one in statuses" :key="one.id"
          ><input v-model="form.ends" type="checkbox" :value="one.id" /> {{ one.title }}</label
        >
      </fieldset>
      <label class="field"
        ><span>What it is for</span
        ><textarea v-model="form.description" rows="2" maxlength="2000" />
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
.allowance select {
  width: auto;
}
.hours {
  width: 90px;
}
</style>
