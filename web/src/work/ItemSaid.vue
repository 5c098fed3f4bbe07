<script setup lang="ts">
import type { CommentAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import ProseEditor from '../parts/ProseEditor.vue'
import { useUnfinished } from '../parts/unfinished.ts'
import Comment from './Comment.vue'

/** What was said about an item, and saying more. */
const { itemRef, comments } = defineProps<{ itemRef: string; comments: readonly CommentAnswer[] }>()
const emit = defineEmits<{ said: [] }>()
const session = useSession()
const notes = useNotes()
const body = ref('')
// What is half said survives leaving the page.
useUnfinished(
  `comment on ${itemRef}`,
  () => body.value.trim() || undefined,
  (kept) => (body.value = kept),
)

async function say(): Promise<void> {
  if (!body.value.trim()) return
  const wentWell = await notes.attempt(async () => {
    await call('POST /items/{code}/{number}/comments', {
      params: partsOf(itemRef),
      body: { body: body.value },
    })
  })
  if (!wentWell) return
  body.value = ''
  emit('said')
}
</script>

<template>
  <section aria-labelledby="said">
    <h2 id="said">Said</h2>
    <Comment
      v-for="comment in comments"
      :key="comment.id"
      :item-ref="itemRef"
      :comment="comment"
      @changed="emit('said')"
    />
    <p v-if="comments.length === 0" class="quiet">Nothing was said yet.</p>
    <form v-if="session.mayEdit" @submit.prevent="say">
      <ProseEditor
        v-model="body"
        :rows="2"
        label="Say something"
        placeholder="Say something; @ names somebody"
        @send="say"
      >
        <Button severity="secondary" type="submit" label="Say it" />
      </ProseEditor>
    </form>
  </section>
</template>

<style scoped>
form {
  margin-top: 10px;
}
</style>
