<script setup lang="ts">
import type { OfferedType } from '@bluestem/core/projects'
import type { ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { call, messageOf } from '../api/http.ts'
import Choice from '../parts/Choice.vue'
import { vFocus } from '../parts/vFocus.ts'

/** A line for what comes below an item: a title, Enter, the next. */
const { above, types, project, first } = defineProps<{
  above: { readonly ref: string; readonly type: ShownChoice }
  types: readonly OfferedType[]
  project: string
  /** the type that is offered first, where it may stand there */
  first?: string | undefined
}>()
const emit = defineEmits<{ made: []; close: [] }>()
const title = ref('')
const refusal = ref('')
const busy = ref(false)

const offered = computed(() => {
  const fitting = types.find(({ id }) => id === above.type.id)?.below ?? []
  return types
    .filter(({ id }) => fitting.includes(id))
    .map(({ id, title: name, mark }) => ({ id, title: name, mark }))
})
const chosen = ref('')
const type = computed({
  get: () =>
    chosen.value || (offered.value.find(({ id }) => id === first) ?? offered.value[0])?.id || '',
  set: (id: string) => {
    chosen.value = id
  },
})

async function add(): Promise<void> {
  if (title.value.trim() === '' || busy.value) return
  busy.value = true
  refusal.value = ''
  try {
    await call('POST /items', {
      body: { project, type: type.value, title: title.value, parent: above.ref },
    })
    title.value = ''
    emit('made')
  } catch (error) {
    refusal.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <form class="add" @submit.prevent="add" @keydown.escape.stop="emit('close')">
    <template v-if="offered.length">
      <Choice
        v-model="type"
        label="Type of what comes below"
        inline
        domain="type"
        :options="offered"
      />
      <InputText
        v-model="title"
        v-focus
        size="small"
        fluid
        maxlength="300"
        :aria-label="`Title of what comes below ${above.ref}`"
        placeholder="its title, then Enter for the next"
      />
    </template>
    <span v-else class="grow">Nothing may stand below {{ above.type.title }}.</span>
    <span v-if="refusal" class="warn cut" role="alert" :title="refusal">{{ refusal }}</span>
    <Button variant="link" label="done" @click="emit('close')" />
  </form>
</template>

<style scoped>
.add {
  display: flex;
  gap: 8px;
  align-items: center;
}
.add > * {
  flex: none;
}
.add > input {
  flex: 1;
  min-width: 0;
}
</style>
