<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { reactive } from 'vue'
import { call } from '../api/http.ts'
import Labelled from '../parts/Labelled.vue'
import Sheet from '../parts/Sheet.vue'
import { useNotes } from '../parts/notes.store.ts'
import { useRefusal } from '../parts/refusal.ts'

/** A new password of one’s own. */
const emit = defineEmits<{ close: [] }>()
const notes = useNotes()
const { attempt, at, words, busy } = useRefusal()
const form = reactive({ before: '', after: '' })

async function save(): Promise<void> {
  if (!(await attempt(async () => await call('POST /session/password', { body: { ...form } }))))
    return
  notes.show(
    'well',
    'Your password is changed. Wherever else you were signed in, you no longer are.',
  )
  emit('close')
}
</script>

<template>
  <Sheet title="Change your password" @close="emit('close')">
    <form @submit.prevent="save">
      <Labelled label="Your password as it is now" :wrong="at('/before')"
        ><InputText
          v-model="form.before"
          type="password"
          autocomplete="current-password"
          required
          autofocus
          :invalid="!!at('/before')"
          fluid
      /></Labelled>
      <Labelled label="The new one, at least eight characters" :wrong="at('/after')"
        ><InputText
          v-model="form.after"
          type="password"
          autocomplete="new-password"
          minlength="8"
          maxlength="1000"
          required
          :invalid="!!at('/after')"
          fluid
      /></Labelled>
      <p v-if="words" class="told" role="alert">{{ words }}</p>
      <div class="acts">
        <Button type="submit" :disabled="busy" label="Change it" /><Button
          severity="secondary"
          label="Not now"
          @click="emit('close')"
        />
      </div>
    </form>
  </Sheet>
</template>
