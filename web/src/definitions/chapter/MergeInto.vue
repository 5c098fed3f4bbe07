<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import RadioButton from 'primevue/radiobutton'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { counted, numberWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** Several labels or components made one: the one that stays is chosen, the most used first. */
const { kind, all } = defineProps<{
  kind: 'labels' | 'components'
  all: readonly { readonly id: string; readonly title: string }[]
}>()
const emit = defineEmits<{ close: []; merged: [] }>()
const definitions = useDefinitions()
const living = useLiving()
const notes = useNotes()
const into = ref(
  [...all].sort((a, b) => definitions.items(b.id) - definitions.items(a.id))[0]?.id ?? '',
)
const joined = ref(all.map((entry) => entry.id))
const busy = ref(false)
const others = computed(() =>
  all.filter((entry) => entry.id !== into.value && joined.value.includes(entry.id)),
)
const touched = computed(() =>
  others.value.reduce((sum, other) => sum + definitions.items(other.id), 0),
)

async function merge(): Promise<void> {
  busy.value = true
  const body = { into: into.value, from: others.value.map((other) => other.id) }
  const done = await living.change(`POST /${kind}/merge`, { body })
  busy.value = false
  if (!done) return
  const later = 'left' in done ? Number(done.left) : 0
  notes.show(
    'well',
    `${counted(done.held, 'item')} ${done.held === 1 ? 'holds' : 'hold'} it now${later > 0 ? `; ${later} of them are still being rewritten` : ''}.`,
  )
  emit('merged')
}
</script>

<template>
  <Sheet :title="`Make ${counted(all.length, kind.slice(0, -1))} one`" @close="emit('close')">
    <form @submit.prevent="merge">
      <DataTable
        :value="[...all]"
        data-key="id"
        table-class="ledger"
        :table-props="{ 'aria-label': 'Which stays' }"
        ><Column header="Stays"
          ><template #body="{ data: entry }"
            ><RadioButton
              v-model="into"
              name="stays"
              :value="entry.id"
              :aria-label="`${entry.title} stays`" /></template
        ></Column>
        <Column header="Becomes it"
          ><template #body="{ data: entry }"
            ><Checkbox
              v-if="entry.id !== into"
              v-model="joined"
              :value="entry.id"
              :aria-label="`${entry.title} becomes it`" /></template
        ></Column>
        <Column
          ><template #header>{{ kind === 'labels' ? 'Label' : 'Component' }}</template
          ><template #body="{ data: entry }">{{ entry.title }}</template></Column
        >
        <Column header="Items" class="num"
          ><template #body="{ data: entry }">{{
            numberWords(definitions.items(entry.id))
          }}</template></Column
        ></DataTable
      >
      <p class="quiet why">
        At most {{ counted(touched, 'item') }} would change, and queries, views and templates that
        name the others name this one instead. The others are retired; history keeps saying what an
        item held when. It can be undone until the next edition is published.
      </p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || others.length === 0"
          label="Make them one"
        /><Button severity="secondary" @click="emit('close')" label="Not now" />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.why {
  margin: 12px 0;
}
</style>
