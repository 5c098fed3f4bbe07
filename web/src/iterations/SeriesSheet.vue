<script setup lang="ts">
import type { Series } from '@bluestem/core/iterations'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { messagesOf } from '../api/http.ts'
import Sheet from '../parts/Sheet.vue'
import SeriesFields from './SeriesFields.vue'

/** A series of iterations or releases: its rule, what it would make, and the way to make it; whose it is stands in the slot. */
const series = defineModel<Series>({ required: true })
const {
  title,
  longest,
  isOwned = true,
  make,
} = defineProps<{
  title: string
  /** of how many weeks each can be at most */
  longest: number
  /** whether it is said whose they are */
  isOwned?: boolean
  make: () => Promise<void>
}>()
const emit = defineEmits<{ close: [] }>()
const refusals = ref<readonly string[]>([])
const isBusy = ref(false)
const isWhole = computed(() => isOwned && series.value.name.trim() !== '' && !!series.value.first)

async function send(): Promise<void> {
  isBusy.value = true
  refusals.value = []
  try {
    await make()
  } catch (error) {
    refusals.value = messagesOf(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <Sheet :title="title" @close="emit('close')">
    <form @submit.prevent="send">
      <SeriesFields v-model="series" :longest="longest"><slot /></SeriesFields>
      <p v-for="line in refusals" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="isBusy || !isWhole"
          :label="series.count === 1 ? 'Make it' : `Make ${series.count}`"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </form>
  </Sheet>
</template>
