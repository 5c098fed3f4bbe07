<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import RadioButton from 'primevue/radiobutton'
import Button from 'primevue/button'
import { ref } from 'vue'
import { messageOf } from '../api/http.ts'
import Sheet from './Sheet.vue'

/** Keeping something under a title, for oneself or for everyone. */
const props = defineProps<{
  what: string
  title: string
  description: string
  shared: 'me' | 'everyone'
  keep: (given: { title: string; description: string; shared: 'me' | 'everyone' }) => Promise<void>
}>()
const emit = defineEmits<{ close: [] }>()
const [title, description, shared, told, busy] = [
  ref(props.title),
  ref(props.description),
  ref(props.shared),
  ref(''),
  ref(false),
]

async function keepIt(): Promise<void> {
  busy.value = true
  told.value = ''
  try {
    await props.keep({ title: title.value, description: description.value, shared: shared.value })
  } catch (error) {
    told.value = messageOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :title="`Keep this ${what}`" @close="emit('close')">
    <form @submit.prevent="keepIt">
      <label class="field"
        ><span>Title</span><InputText v-model="title" required maxlength="120" autofocus fluid
      /></label>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="description" maxlength="2000" rows="2" fluid />
      </label>
      <fieldset class="field">
        <legend class="quiet">Shared with</legend>
        <label><RadioButton v-model="shared" name="shared" value="me" /> only me</label>{{ ' '
        }}<label><RadioButton v-model="shared" name="shared" value="everyone" /> everyone</label>
      </fieldset>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <div class="acts">
        <Button type="submit" :disabled="busy || !title.trim()" label="Keep" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
  display: flex;
  gap: 18px;
}
legend {
  font-size: 13px;
  padding: 0;
}
</style>
