<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { useDefinitions } from '../definitions.store.ts'

/** Begins a draft under a name, or gives the one at hand another. */
const { title } = defineProps<{
  /** the name it has; none for one that is begun */
  title?: string
}>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const name = ref(title ?? '')
const busy = ref(false)

async function keep(): Promise<void> {
  busy.value = true
  const done =
    title === undefined
      ? await definitions.begin(name.value.trim())
      : await definitions.rename(name.value.trim())
  busy.value = false
  if (done) emit('close')
}
</script>

<template>
  <Sheet :title="title === undefined ? 'New draft' : `Rename “${title}”`" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"
        ><span>What it is to do</span
        ><InputText v-model="name" required maxlength="120" autofocus fluid
      /></label>
      <p class="quiet">Changes you make in any chapter are put into it until you choose another.</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || name.trim() === ''"
          :label="title === undefined ? 'Begin it' : 'Rename it'"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </form>
  </Sheet>
</template>
