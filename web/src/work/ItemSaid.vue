<script setup lang="ts">
import type { CommentAnswer } from '@bluestem/core/work'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import { initials, momentWords } from '../parts/words.ts'

const { itemRef, comments } = defineProps<{ itemRef: string; comments: readonly CommentAnswer[] }>()
const emit = defineEmits<{ said: [] }>()
const session = useSession()
const notes = useNotes()
const body = ref('')

async function say(): Promise<void> {
  if (
    await notes.attempt(async () => {
      await call('POST /items/{code}/{number}/comments', {
        params: partsOf(itemRef),
        body: { body: body.value },
      })
    })
  ) {
    body.value = ''
    emit('said')
  }
}
</script>

<template>
  <section aria-labelledby="said">
    <h2 id="said">Said</h2>
    <article v-for="comment in comments" :key="comment.id">
      <span class="initials" aria-hidden="true">{{ initials(comment.by.title) }}</span>
      <div>
        <b>{{ comment.by.title }}</b>{{ ' '
        }}<span class="quiet">{{ momentWords(comment.at, session.now) }}</span>
        <p>{{ comment.body }}</p>
      </div>
    </article>
    <p v-if="comments.length === 0" class="quiet">Nothing was said yet.</p>
    <form v-if="session.mayEdit" @submit.prevent="say">
      <Textarea
        v-model="body"
        rows="2"
        aria-label="Say something"
        placeholder="Say something"
        @keydown.ctrl.enter="say"
        fluid
      />
      <Button severity="secondary" v-if="body.trim()" type="submit" label="Say it" />
    </form>
  </section>
</template>

<style scoped>
article {
  display: flex;
  gap: 8px;
  margin: 8px 0;
  align-items: flex-start;
}
article p {
  white-space: pre-wrap;
}
form {
  margin-top: 10px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  align-items: flex-start;
}
textarea {
  min-height: 44px;
}
</style>
