<script setup lang="ts">
import RadioButton from 'primevue/radiobutton'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import Sheet from '../parts/Sheet.vue'
import { useNotes } from '../parts/notes.store.ts'
import { counted, numberWords } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

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
const joined = ref(all.map((one) => one.id))
const busy = ref(false)
const others = computed(() =>
  all.filter((one) => one.id !== into.value && joined.value.includes(one.id)),
)
const touched = computed(() =>
  others.value.reduce((sum, one) => sum + definitions.items(one.id), 0),
)

async function merge(): Promise<void> {
  busy.value = true
  const done = await living.change<{ items: number; left?: number; held: number }>(
    'POST',
    `/${kind}/merge`,
    { into: into.value, from: others.value.map((one) => one.id) },
  )
  busy.value = false
  if (!done) return
  notes.show(
    'well',
    `${counted(done.held, 'item')} ${done.held === 1 ? 'holds' : 'hold'} it now${done.left ? `; ${done.left} of them are still being rewritten` : ''}.`,
  )
  emit('merged')
}
</script>

<template>
  <Sheet :title="`Make ${counted(all.length, kind.slice(0, -1))} one`" @close="emit('close')">
    <form @submit.prevent="merge">
      <table class="ledger">
        <thead>
          <tr>
            <th scope="col">Stays</th>
            <th scope="col">Becomes it</th>
            <th scope="col">{{ kind === 'labels' ? 'Label' : 'Component' }}</th>
            <th scope="col" class="num">Items</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in all" :key="one.id">
            <td>
              <RadioButton
                v-model="into"
                name="stays"
                :value="one.id"
                :aria-label="`${one.title} stays`"
              />
            </td>
            <td>
              <Checkbox
                v-if="one.id !== into"
                v-model="joined"
                :value="one.id"
                :aria-label="`${one.title} becomes it`"
              />
            </td>
            <td>{{ one.title }}</td>
            <td class="num">{{ numberWords(definitions.items(one.id)) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet why">
        At most {{ counted(touched, 'item') }} would change, and queries, views and templates that
        name the others name this one instead. The others are retired; history keeps saying what an
        item held when.
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
