<script setup lang="ts">
import { onBeforeUnmount, onMounted } from 'vue'
import { isWriting } from '../parts/isWriting.ts'
import MakeLine from './MakeLine.vue'

/** Making items straight in a list: the key M opens the line above it. */
const isOpen = defineModel<boolean>({ required: true })
const { filter, place } = defineProps<{ filter: unknown; place: string }>()
const emit = defineEmits<{ made: [ref: string] }>()

function listen(event: KeyboardEvent): void {
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  if (event.key !== 'm' || !isPlain || isWriting(event.target) || isOpen.value) return
  event.preventDefault()
  isOpen.value = true
}
onMounted(() => window.addEventListener('keydown', listen))
onBeforeUnmount(() => window.removeEventListener('keydown', listen))
</script>

<template>
  <MakeLine
    v-if="isOpen"
    :filter="filter"
    :place="place"
    @made="emit('made', $event)"
    @close="isOpen = false"
  />
</template>
