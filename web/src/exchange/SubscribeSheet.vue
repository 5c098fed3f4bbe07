<script setup lang="ts">
import type { NewSubscription, SubscriptionAnswer } from '@bluestem/core/exchange'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import Sheet from '../parts/Sheet.vue'
import ShownOnce from '../parts/ShownOnce.vue'
import { agoWords } from '../parts/words.ts'

/** An address under which a calendar or a reader of feeds reads answers again and again; and those one made before, to be ended. */
const { wanted } = defineProps<{ wanted: NewSubscription }>()
const emit = defineEmits<{ close: [] }>()
const notes = useNotes()
const session = useSession()
const address = ref('')
const before = ref<readonly SubscriptionAnswer[]>([])

const load = async (): Promise<void> =>
  void (await notes.attempt(async () => {
    before.value = (await call('GET /subscriptions')).subscriptions
  }))
onMounted(load)

async function make(): Promise<void> {
  await notes.attempt(async () => {
    address.value = (await call('POST /subscriptions', { body: wanted })).address
  })
  await load()
}
async function end({ id, title }: SubscriptionAnswer): Promise<void> {
  await notes.attempt(async () => {
    await call('DELETE /subscriptions/{id}', { params: { id } })
    notes.show('well', `Nobody reads “${title}” under its address any more.`)
  })
  await load()
}
const formWords = ({ format }: SubscriptionAnswer): string =>
  format === 'icalendar' ? 'calendar' : 'feed'
</script>

<template>
  <Sheet wide title="An address to subscribe to" @close="emit('close')">
    <p>
      A program that is given the address reads “{{ wanted.title }}” by itself, as often as it
      likes: what you may see at that time, and nothing else. Whoever has the address can do the
      same, so give it to nobody else.
    </p>
    <template v-if="address">
      <ShownOnce :address="address" label="The address" />
      <p class="quiet">It is shown this once. Made again, it is another one.</p>
    </template>
    <div v-else class="acts">
      <Button autofocus label="Make the address" @click="make" />
      <Button severity="secondary" label="Not now" @click="emit('close')" />
    </div>
    <template v-if="before.length">
      <h3>Your addresses</h3>
      <ul>
        <li v-for="entry in before" :key="entry.id">
          <span class="grow cut">{{ entry.title }}</span>
          <span class="quiet"
            >{{ formWords(entry) }},
            {{
              entry.readAt ? `read ${agoWords(entry.readAt, session.now)}` : 'not read yet'
            }}</span
          >
          <Button
            variant="link"
            label="end"
            :aria-label="`End the address of ${entry.title}`"
            @click="end(entry)"
          />
        </li>
      </ul>
    </template>
  </Sheet>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 220px;
  overflow: auto;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: 3px 0;
}
</style>
