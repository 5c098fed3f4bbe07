<script setup lang="ts">
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { useSession } from '../session/session.store.ts'
import { written } from '../parts/eventTarget.ts'
import TypeMark from '../parts/TypeMark.vue'
import type { ItemGiven } from './changing.ts'

const { item } = defineProps<{ item: WholeItemAnswer }>()
const emit = defineEmits<{ change: [ItemGiven, ItemGiven] }>()
const session = useSession()
const isEditing = ref(false)
/** what the title was when one began */
const seen = ref('')

function rename(): void {
  seen.value = item.title
  isEditing.value = true
}

function leaveField({ target }: Event): void {
  if (target instanceof HTMLElement) target.blur()
}

function keep(event: Event): void {
  isEditing.value = false
  const title = written(event)
  if (title !== seen.value) emit('change', { title }, { title: seen.value })
}
</script>

<template>
  <div class="row title">
    <TypeMark :mark="String(item.type.mark)" :title="item.type.title" />
    <h1 v-if="!isEditing" class="grow">
      {{ item.title }}
      <Button variant="link" class="small" v-if="session.mayEdit" @click="rename" label="rename" />
    </h1>
    <InputText
      :model-value="seen"
      v-else
      aria-label="Title"
      maxlength="300"
      autofocus
      @keydown.enter="leaveField"
      @keydown.escape="isEditing = false"
      @change="keep"
      @blur="isEditing = false"
      fluid
    />
  </div>
</template>

<style scoped>
.title {
  margin: 8px 0 10px;
}
.title h1 {
  font-size: 28px;
}
.title input {
  font: 500 25px var(--serif);
}
.small {
  font-size: 12.5px;
  font-family: var(--sans);
}
</style>
