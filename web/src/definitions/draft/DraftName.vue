<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import RadioButton from 'primevue/radiobutton'
import { ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** Begins a draft under a name and says who may open it, or changes that of the one at hand. */
const { draft } = defineProps<{
  /** the one that is changed; none for one that is begun */
  draft?: { readonly title: string; readonly shared: boolean; readonly mine: boolean }
}>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const name = ref(draft?.title ?? '')
const shared = ref(draft?.shared ?? true)
const busy = ref(false)

async function keep(): Promise<void> {
  busy.value = true
  const named = { title: name.value.trim(), shared: shared.value }
  const done = draft ? await definitions.rename(named) : await definitions.begin(named)
  busy.value = false
  if (done) emit('close')
}
</script>

<template>
  <Sheet :title="draft ? `Name of “${draft.title}”` : 'New draft'" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"
        ><span>What it is to do</span
        ><InputText v-model="name" required maxlength="120" autofocus fluid
      /></label>
      <fieldset v-if="draft?.mine ?? true" class="field">
        <legend>Who may open it</legend>
        <label
          ><RadioButton v-model="shared" name="shared" :value="true" /> everybody who changes
          definitions</label
        >
        <label
          ><RadioButton v-model="shared" name="shared" :value="false" /> only I, until I share
          it</label
        >
      </fieldset>
      <p class="quiet">Changes you make in any chapter are put into it until you choose another.</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || name.trim() === ''"
          :label="draft ? 'Keep' : 'Begin it'"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </form>
  </Sheet>
</template>
