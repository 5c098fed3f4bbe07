<script setup lang="ts">
import type { CommentAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import ProseEditor from '../parts/ProseEditor.vue'
import { useUnfinished } from '../parts/unfinished.ts'
import Comment from './Comment.vue'

/** The comments on an item, and a form for a new one. */
const { itemRef, comments } = defineProps<{ itemRef: string; comments: readonly CommentAnswer[] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const notes = useNotes()
const body = ref('')
// A comment half written survives leaving the page.
useUnfinished(
  `comment on ${itemRef}`,
  () => body.value.trim() || undefined,
  (kept) => (body.value = kept),
)

async function comment(): Promise<void> {
  if (!body.value.trim()) return
  const wentWell = await notes.attempt(async () => {
    await call('POST /items/{code}/{number}/comments', {
      params: partsOf(itemRef),
      body: { body: body.value },
    })
  })
  if (!wentWell) return
  body.value = ''
  emit('changed')
}
</script>

<template>
  <section aria-labelledby="comments">
    <h2 id="comments">Comments</h2>
    <Comment
      v-for="comment in comments"
      :key="comment.id"
      :item-ref="itemRef"
      :comment="comment"
      @changed="emit('changed')"
    />
    <p v-if="comments.length === 0" class="quiet">No comments yet.</p>
    <form v-if="session.mayEdit" @submit.prevent="comment">
      <ProseEditor
        v-model="body"
        :rows="2"
        label="Write a comment"
        placeholder="Write a comment; @ names somebody"
        @send="comment"
      >
        <Button severity="secondary" type="submit" label="Comment" />
      </ProseEditor>
    </form>
  </section>
</template>

<style scoped>
form {
  margin-top: 10px;
}
</style>
