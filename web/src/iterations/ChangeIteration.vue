<script setup lang="ts">
import type { IterationAnswer } from '@bluestem/core/iterations'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { ref } from 'vue'
import { call, messagesOf } from '../api/http.ts'
import DayPicker from '../parts/DayPicker.vue'
import Sheet from '../parts/Sheet.vue'

/** The name, the days and the goal of an iteration; one that no item ever was in can be deleted. */
const { iteration } = defineProps<{ iteration: IterationAnswer }>()
const emit = defineEmits<{ close: []; changed: []; deleted: [] }>()
const title = ref(iteration.title)
const goal = ref(iteration.goal)
const start = ref(iteration.start)
const end = ref(iteration.end)
const refusals = ref<readonly string[]>([])
const about = { params: { id: iteration.id }, match: iteration.version }

async function attempt(act: () => Promise<unknown>, told: () => void): Promise<void> {
  refusals.value = []
  try {
    await act()
    told()
  } catch (error) {
    refusals.value = messagesOf(error)
  }
}
const save = async (): Promise<void> =>
  await attempt(
    async () =>
      await call('PATCH /iterations/{id}', {
        ...about,
        body: {
          title: title.value,
          goal: goal.value,
          ...(start.value && end.value ? { start: start.value, end: end.value } : {}),
        },
      }),
    () => emit('changed'),
  )
const discard = async (): Promise<void> =>
  await attempt(
    async () => await call('DELETE /iterations/{id}', about),
    () => emit('deleted'),
  )
</script>

<template>
  <Sheet :title="iteration.title" @close="emit('close')">
    <form @submit.prevent="save">
      <label class="field"
        ><span>Name</span><InputText v-model="title" required maxlength="80" fluid
      /></label>
      <label class="field"
        ><span>Goal</span><Textarea v-model="goal" rows="2" maxlength="500" fluid
      /></label>
      <div class="field"><span>First day</span><DayPicker v-model="start" label="First day" /></div>
      <div class="field"><span>Last day</span><DayPicker v-model="end" label="Last day" /></div>
      <p v-for="line in refusals" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts">
        <Button type="submit" label="Save" /><Button
          severity="secondary"
          label="Not now"
          @click="emit('close')"
        /><Button
          v-if="iteration.items === 0 && iteration.state === 'planned'"
          variant="link"
          label="delete it"
          @click="discard"
        />
      </div>
    </form>
  </Sheet>
</template>
