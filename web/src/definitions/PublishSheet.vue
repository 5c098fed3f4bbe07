<script setup lang="ts">
import { ref } from 'vue'
import type { Draft } from './types.ts'
import Sheet from '../parts/Sheet.vue'
import { counted } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'

const { draft } = defineProps<{ draft: Draft }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const note = ref('')
const later = ref('')
const busy = ref(false)

async function publish(): Promise<void> {
  busy.value = true
  if (
    await definitions.publish(
      note.value,
      later.value ? new Date(later.value).toISOString() : undefined,
    )
  )
    emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="`Publish edition ${(definitions.edition?.number ?? 0) + 1}`"
    wide
    @close="emit('close')"
  >
    <form @submit.prevent="publish">
      <table class="ledger">
        <thead>
          <tr>
            <th scope="col">What it does</th>
            <th scope="col" class="num">Touches</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="change in draft.changes" :key="change.id">
            <td>{{ change.words }}</td>
            <td class="num nowrap">{{ counted(change.items, 'item') }}</td>
          </tr>
        </tbody>
      </table>
      <label class="field note"
        ><span>Why (people read this in the list of editions)</span
        ><textarea v-model="note" rows="2" maxlength="2000" autofocus />
      </label>
      <label class="field when"
        ><span>Not now, but at (leave empty for now)</span
        ><input v-model="later" type="datetime-local"
      /></label>
      <div class="acts">
        <button class="act main" type="submit" :disabled="busy">
          {{ later ? 'Set the time' : 'Publish' }}</button><button
          class="act"
          type="button"
          @click="emit('close')"
        >
          Not yet
        </button>
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.note {
  margin-top: 14px;
}
.when {
  max-width: 260px;
}
</style>
