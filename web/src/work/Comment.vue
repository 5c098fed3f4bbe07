<script setup lang="ts">
import type { CommentAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import Prose from '../parts/Prose.vue'
import ProseEditor from '../parts/ProseEditor.vue'
import { initials, momentWords } from '../parts/words.ts'

/** A comment on an item. Its author can edit it, with its earlier wordings still readable; a deleted one leaves a line. */
const { itemRef, comment } = defineProps<{ itemRef: string; comment: CommentAnswer }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const notes = useNotes()
const editing = ref(false)
const earlier = ref(false)
const body = ref('')
const editor = ref<InstanceType<typeof ProseEditor>>()
const params = { ...partsOf(itemRef), comment: String(comment.id) }
const when = (moment: string): string => momentWords(moment, session.now)

/** When it was deleted, and by whom where that was not its author. */
const deletedWords = computed(() => {
  const { takenBack, by } = comment
  if (!takenBack) return ''
  const moment = when(takenBack.at)
  return takenBack.by.id === by.id
    ? `It was deleted on ${moment}.`
    : `${takenBack.by.title} deleted it on ${moment}.`
})

async function begin(): Promise<void> {
  body.value = comment.body
  editing.value = true
  await nextTick()
  editor.value?.focus()
}

async function keep(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('PATCH /items/{code}/{number}/comments/{comment}', {
      params,
      body: { body: body.value },
    })
  })
  if (!wentWell) return
  editing.value = false
  emit('changed')
}

async function deleteComment(): Promise<void> {
  const text = comment.body
  const wentWell = await notes.attempt(async () => {
    await call('DELETE /items/{code}/{number}/comments/{comment}', { params })
  })
  if (!wentWell) return
  // The author can post the same text again as a new comment.
  if (comment.mayChange)
    notes.show('well', 'Comment deleted.', {
      title: 'Post it again',
      run: () => void postAgain(text),
    })
  emit('changed')
}

async function postAgain(text: string): Promise<void> {
  await notes.attempt(async () => {
    await call('POST /items/{code}/{number}/comments', {
      params: partsOf(itemRef),
      body: { body: text },
    })
  })
  emit('changed')
}
</script>

<template>
  <p v-if="comment.takenBack" class="quiet gone">
    {{ comment.by.title }} commented on {{ when(comment.at) }}. {{ deletedWords }}
  </p>
  <article v-else>
    <span class="initials" aria-hidden="true">{{ initials(comment.by.title) }}</span>
    <div class="grow">
      <b>{{ comment.by.title }}</b>{{ ' ' }}<span class="quiet">{{ when(comment.at) }}</span
      ><Button
        v-if="comment.earlier.length"
        variant="link"
        class="small"
        :aria-expanded="earlier"
        label="edited"
        @click="earlier = !earlier"
      />
      <ProseEditor
        v-if="editing"
        ref="editor"
        v-model="body"
        label="Edit the comment"
        @send="keep"
        @leave="editing = false"
      >
        <Button severity="secondary" label="Keep" @click="keep" />
        <Button variant="link" label="cancel" @click="editing = false" />
      </ProseEditor>
      <Prose v-else :text="comment.body" />
      <template v-if="earlier">
        <div v-for="entry in comment.earlier" :key="entry.until" class="earlier">
          <span class="quiet">until {{ when(entry.until) }}</span>
          <Prose :text="entry.body" />
        </div>
      </template>
      <span v-if="!editing && (comment.mayChange || comment.mayTakeBack)" class="acts">
        <Button v-if="comment.mayChange" variant="link" class="small" label="edit" @click="begin" />
        <Button
          v-if="comment.mayTakeBack"
          variant="link"
          class="small"
          label="delete"
          @click="deleteComment"
        />
      </span>
    </div>
  </article>
</template>

<style scoped>
article {
  display: flex;
  gap: 8px;
  margin: 10px 0;
  align-items: flex-start;
}
.grow {
  min-width: 0;
}
.small {
  font-size: 12.5px;
}
.acts {
  gap: 12px;
}
b + .quiet {
  margin-right: 8px;
}
.earlier {
  margin: 6px 0;
  padding-left: 12px;
  border-left: 1px solid var(--rule);
}
.gone {
  margin: 8px 0;
}
</style>
