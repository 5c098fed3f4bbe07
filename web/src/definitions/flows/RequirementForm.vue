<script setup lang="ts">
import Checkbox from 'primevue/checkbox'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import { flowOf, formOf, requiredRoles, type Requirement } from '@bluestem/core/definitions'
import { fieldTitle } from '@bluestem/core/work'
import Sheet from '../../parts/Sheet.vue'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** What entering a status requires, and what the refused person reads. */
const { type, status } = defineProps<{ type: string; status: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const flow = flowOf(definitions.document, definitions.rulebook, type)
const known: Requirement = flow.requirements.get(status) ?? {}
const noRole: NonNullable<Requirement['role']> | '' = ''
const form = reactive({
  role: known.role ?? noRole,
  filled: [...(known.filled ?? [])],
  belowDone: known.belowDone ?? false,
  comment: known.comment ?? false,
  reason: known.reason ?? false,
  been: [...(known.been ?? [])],
  says: known.says ?? '',
})
const busy = ref(false)
const fields = computed(() => [
  ...new Set([
    ...formOf(definitions.document, definitions.rulebook, type, 'item').map((entry) => entry.field),
    ...form.filled,
  ]),
])
const title = (id: string): string => definitions.document.statuses[id]?.title ?? id
const key = `requirement:${type}:${status}`

async function keep(): Promise<void> {
  busy.value = true
  const requires: Requirement = {
    ...(form.role ? { role: form.role } : {}),
    ...(form.filled.length ? { filled: form.filled } : {}),
    ...(form.belowDone ? { belowDone: true } : {}),
    ...(form.comment ? { comment: true } : {}),
    ...(form.reason ? { reason: true } : {}),
    ...(form.been.length ? { been: form.been } : {}),
  }
  const asks = Object.keys(requires).length > 0
  if (
    await definitions.edit([
      definitions.sayEntry(
        key,
        asks
          ? { requires: { ...requires, ...(form.says.trim() ? { says: form.says.trim() } : {}) } }
          : null,
      ),
    ])
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="`To enter ${title(status)}, a ${definitions.document.types[type]?.title} needs`"
    wide
    @close="emit('close')"
  >
    <form @submit.prevent="keep">
      <div class="row wrap boxes">
        <label><Checkbox v-model="form.belowDone" binary /> everything below it done</label
        ><label
          ><Checkbox v-model="form.comment" binary /> something said since it came to where it
          stands</label
        ><label><Checkbox v-model="form.reason" binary /> a reason given with the move</label>
      </div>
      <label class="field role"
        ><span>Somebody who is</span
        ><Choice
          v-model="form.role"
          label="Somebody who is"
          none="anyone"
          :options="requiredRoles.map((role) => ({ id: role, title: role }))"
      /></label>
      <fieldset class="field">
        <legend>Filled fields</legend>
        <label v-for="field in fields" :key="field"
          ><Checkbox v-model="form.filled" :value="field" />
          {{ fieldTitle(definitions.document, field) }}</label
        >
      </fieldset>
      <fieldset class="field">
        <legend>To have been before in one of</legend>
        <label v-for="entry in flow.statuses.filter((each) => each !== status)" :key="entry"
          ><Checkbox v-model="form.been" :value="entry" /> {{ title(entry) }}</label
        >
      </fieldset>
      <label class="field"
        ><span>What the refused person reads first</span
        ><Textarea
          v-model="form.says"
          rows="2"
          maxlength="500"
          placeholder="A defect is signed off only once a surveyor has seen it."
          fluid
        />
      </label>
      <FormActs :busy="busy" @close="emit('close')" />
    </form>
  </Sheet>
</template>

<style scoped>
.boxes {
  gap: 6px 18px;
  margin-bottom: 12px;
}
.role {
  max-width: 320px;
}
</style>
