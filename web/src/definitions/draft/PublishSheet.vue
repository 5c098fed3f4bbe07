<script setup lang="ts">
import type { DraftAnswer } from '@bluestem/core/definitions'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import DayPicker from '../../parts/DayPicker.vue'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../definitions.store.ts'

const { draft } = defineProps<{ draft: DraftAnswer }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const note = ref('')
const later = ref<string | null>(null)
const busy = ref(false)

async function publish(): Promise<void> {
  busy.value = true
  if (await definitions.publish(note.value, later.value ?? undefined)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="`Publish edition ${(definitions.edition?.number ?? 0) + 1}`"
    wide
    @close="emit('close')"
  >
    <form @submit.prevent="publish">
      <DataTable
        :value="[...draft.changes]"
        data-key="id"
        table-class="ledger"
        :table-props="{ 'aria-label': 'What it changes' }"
        ><Column header="What it does"
          ><template #body="{ data: change }">{{ change.words }}</template></Column
        >
        <Column header="Touches" class="num nowrap"
          ><template #body="{ data: change }">{{ counted(change.items, 'item') }}</template></Column
        ></DataTable
      >
      <label class="field note"
        ><span>Why (people read this in the list of editions)</span
        ><Textarea v-model="note" rows="2" maxlength="2000" autofocus fluid />
      </label>
      <label class="field when"
        ><span>Not now, but at (leave empty for now)</span
        ><DayPicker v-model="later" label="Not now, but at" moment
      /></label>
      <div class="acts">
        <Button type="submit" :disabled="busy" :label="later ? 'Set the time' : 'Publish'" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not yet"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.note {
  margin-top: 14px;
}
.when {
  max-width: 260px;
}
</style>
