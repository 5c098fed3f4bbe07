<script setup lang="ts">
import type { FollowersAnswer } from '@bluestem/core/notices'
import { X } from '@lucide/vue'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import Choice from '../parts/Choice.vue'
import { useNotes } from '../parts/notes.store.ts'

/** Who hears of an item; oneself with one press, others by name. */
const { itemRef } = defineProps<{ itemRef: string }>()
const session = useSession()
const notes = useNotes()
const vocabulary = useVocabulary()
const known = ref<FollowersAnswer>()
const isNaming = ref(false)
const me = computed(() => session.session?.person.id ?? '')
const others = computed(() =>
  (vocabulary.vocabulary?.choices.person ?? []).filter(
    ({ id, retired }) => !retired && known.value?.followers.every((follower) => follower.id !== id),
  ),
)

async function load(): Promise<void> {
  known.value = await call('GET /items/{code}/{number}/followers', { params: partsOf(itemRef) })
}
onMounted(() => notes.attempt(load))

async function follow(person: string): Promise<void> {
  if (!person) return
  await notes.attempt(async () => {
    known.value = await call('POST /items/{code}/{number}/followers', {
      params: partsOf(itemRef),
      body: { person },
    })
  })
}

async function unfollow(person: string): Promise<void> {
  await notes.attempt(async () => {
    await call('DELETE /items/{code}/{number}/followers/{person}', {
      params: { ...partsOf(itemRef), person },
    })
    await load()
  })
}
</script>

<template>
  <section v-if="known" class="followers" aria-label="Who follows it">
    <p>
      <span class="quiet">Followed by </span
      ><template v-if="known.followers.length === 0">nobody</template
      ><template v-for="(follower, index) in known.followers" :key="follower.id"
        ><template v-if="index">, </template>{{ follower.id === me ? 'you' : follower.title
        }}<Button
          v-if="isNaming && follower.id !== me"
          variant="text"
          size="small"
          class="away"
          :aria-label="`${follower.title} follows it no more`"
          @click="unfollow(follower.id)"
          ><template #icon><X :size="13" :stroke-width="1.5" /></template></Button></template
      >.
    </p>
    <p class="acts">
      <Button v-if="known.isFollowed" variant="link" label="follow no more" @click="unfollow(me)" />
      <Button v-else variant="link" label="follow" @click="follow(me)" />
      <Choice
        v-if="isNaming"
        model-value=""
        label="Who is to follow it"
        none="who …"
        inline
        domain="person"
        :options="others"
        @update:model-value="follow"
      /><Button v-if="isNaming" variant="link" label="done" @click="isNaming = false" />
      <Button
        v-else-if="session.mayEdit"
        variant="link"
        label="change …"
        @click="isNaming = true"
      />
    </p>
  </section>
</template>

<style scoped>
.followers {
  margin-bottom: 14px;
}
.acts {
  gap: 12px;
  flex-wrap: wrap;
}
.away {
  padding: 0 3px;
}
</style>
