<script setup lang="ts">
import type { InvitationAnswer, PersonAnswer } from '@bluestem/core/people'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import ShownOnce from '../../parts/ShownOnce.vue'
import { useRefusal } from '../../parts/refusal.ts'
import { dayWords } from '../../parts/words.ts'
import { useLiving } from '../store/living.store.ts'

/** An address by which somebody chooses a password and comes in: made at once where they have none, else after a question. */
const { person } = defineProps<{ person: PersonAnswer }>()
const emit = defineEmits<{ close: [] }>()
const living = useLiving()
const { attempt, words, busy } = useRefusal()
const made = ref<InvitationAnswer>()

const make = async (): Promise<void> =>
  void (await attempt(async () => {
    made.value = await living.send('POST /people/{id}/invitation', { params: { id: person.id } })
  }))
onMounted(async () => {
  if (!person.hasPassword) await make()
})
</script>

<template>
  <Sheet :title="`Invite ${person.name}`" @close="emit('close')">
    <template v-if="made">
      <p>
        Send {{ person.name }} this address. Whoever opens it chooses a password and is in as
        {{ person.name }}, so give it to nobody else.
      </p>
      <ShownOnce :address="made.address" label="The invitation" />
      <p class="quiet">
        It is shown this once, works once, and holds until {{ dayWords(made.until.slice(0, 10)) }}.
      </p>
      <div class="acts"><Button severity="secondary" label="Done" @click="emit('close')" /></div>
    </template>
    <template v-else-if="person.hasPassword">
      <p>
        {{ person.name }} has a password. By a new address they choose another, and are signed out
        wherever they are signed in; until then nothing changes.
      </p>
      <div class="acts">
        <Button autofocus :disabled="busy" label="Make the address" @click="make" /><Button
          severity="secondary"
          label="Not now"
          @click="emit('close')"
        />
      </div>
    </template>
    <p v-if="words" class="told" role="alert">{{ words }}</p>
  </Sheet>
</template>
