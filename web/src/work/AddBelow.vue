<script setup lang="ts">
import type { OfferedType } from '@bluestem/core/projects'
import type { ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { call } from '../api/http.ts'
import TitleLine from './TitleLine.vue'

/** A line for what comes below an item. */
const { above, types, project, first } = defineProps<{
  above: { readonly ref: string; readonly type: ShownChoice }
  types: readonly OfferedType[]
  project: string
  /** the type that is offered first, where it may stand there */
  first?: string | undefined
}>()
const emit = defineEmits<{ made: []; close: [] }>()

const offered = computed(() => {
  const fitting = types.find(({ id }) => id === above.type.id)?.below ?? []
  return types
    .filter(({ id }) => fitting.includes(id))
    .map(({ id, title, mark }) => ({ id, title, mark }))
})
const chosen = ref('')
const type = computed({
  get: () =>
    chosen.value || (offered.value.find(({ id }) => id === first) ?? offered.value[0])?.id || '',
  set: (id: string) => {
    chosen.value = id
  },
})

async function make(title: string): Promise<void> {
  await call('POST /items', { body: { project, type: type.value, title, parent: above.ref } })
  emit('made')
}
</script>

<template>
  <TitleLine
    v-if="offered.length"
    v-model:type="type"
    :label="`what comes below ${above.ref}`"
    :types="offered"
    :make="make"
    @close="emit('close')"
  />
  <p v-else class="row">
    <span class="grow">Nothing may stand below {{ above.type.title }}.</span>
    <Button variant="link" label="done" @click="emit('close')" />
  </p>
</template>
