<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import Choice from '../../parts/Choice.vue'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { nearness } from '@bluestem/core/consistency'
import { inOrder } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A project's label becomes everyone's, in a family if wished, and its copies elsewhere become one with it. */
const { label } = defineProps<{ label: LabelAnswer }>()
const emit = defineEmits<{ close: []; lifted: [] }>()
const definitions = useDefinitions()
const living = useLiving()
const notes = useNotes()
const family = ref(label.family ?? '')
const near = computed(() =>
  living.labels.filter(
    (entry) =>
      entry.id !== label.id && !entry.retired && nearness(entry.title, label.title) === 'same',
  ),
)
const copies = ref(near.value.map((entry) => entry.id))
const busy = ref(false)

async function lift(): Promise<void> {
  busy.value = true
  const done = await living.change('POST /labels/{id}/lift', {
    params: { id: label.id },
    body: {
      family: family.value || null,
      copies: copies.value,
    },
  })
  busy.value = false
  if (!done) return
  notes.show(
    'well',
    `“${label.title}” is everyone’s now${done.items ? `; ${counted(done.items, 'item')} of its copies hold it` : ''}.`,
  )
  emit('lifted')
  emit('close')
}
</script>

<template>
  <Sheet :title="`Lift ${label.title} to everyone`" @close="emit('close')">
    <form @submit.prevent="lift">
      <label class="field"
        ><span>Into family</span
        ><Choice
          v-model="family"
          label="Into family"
          none="none"
          :options="
            inOrder(definitions.document.families)
              .filter((each) => !each.retired)
              .map((row) => ({ id: row.id, title: row.title }))
          "
      /></label>
      <fieldset v-if="near.length" class="field">
        <legend>Copies that become one with it</legend>
        <label v-for="entry in near" :key="entry.id"
          ><Checkbox v-model="copies" :value="entry.id" /> {{ entry.title }}
          <span class="quiet"
            >{{ entry.project ? living.projectTitle.get(entry.project) : 'everyone' }},
            {{ counted(definitions.items(entry.id), 'item') }}</span
          ></label
        >
      </fieldset>
      <p v-else class="quiet why">No other project has a copy of it.</p>
      <div class="acts">
        <Button type="submit" :disabled="busy" label="Lift it" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.why {
  margin-bottom: 12px;
}
</style>
