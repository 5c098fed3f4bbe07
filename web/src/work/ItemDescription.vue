<script setup lang="ts">
import { asTextOrNull } from '@bluestem/core/known'
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { nextTick, ref } from 'vue'
import { useSession } from '../session/session.store.ts'
import Prose from '../parts/Prose.vue'
import ProseEditor from '../parts/ProseEditor.vue'
import type { ItemGiven } from './changing.ts'

const { item } = defineProps<{ item: WholeItemAnswer }>()
const emit = defineEmits<{ change: [ItemGiven, ItemGiven] }>()
const session = useSession()
const isEditing = ref(false)
const description = ref('')
/** what the description was when one began */
const seen = ref<string | null>(null)
const editor = ref<InstanceType<typeof ProseEditor>>()

async function describe(): Promise<void> {
  seen.value = asTextOrNull(item['description'])
  description.value = seen.value ?? ''
  isEditing.value = true
  await nextTick()
  editor.value?.focus()
}

function keep(): void {
  isEditing.value = false
  const now = description.value.trim() || null
  if (now !== seen.value) emit('change', { description: now }, { description: seen.value })
}
</script>

<template>
  <div class="about">
    <template v-if="!isEditing">
      <Prose v-if="item['description']" :text="String(item['description'])" class="words" />
      <Button
        variant="link"
        class="small"
        v-if="session.mayEdit"
        @click="describe"
        :label="item['description'] ? 'rewrite' : 'describe it …'"
      />
    </template>
    <template v-else>
      <ProseEditor
        ref="editor"
        v-model="description"
        :rows="8"
        label="Description"
        @send="keep"
        @leave="isEditing = false"
      />
      <div class="row beside">
        <Button severity="secondary" label="Keep" @click="keep" />
        <Button variant="link" label="leave it" @click="isEditing = false" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.about {
  margin: 18px 0 20px;
}
.words {
  font: 400 17px/1.45 var(--serif);
  max-width: 78ch;
}
.small {
  font-size: 12.5px;
  font-family: var(--sans);
}
.beside {
  gap: 16px;
  margin-top: 10px;
}
</style>
