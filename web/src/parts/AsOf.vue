<script setup lang="ts">
import Button from 'primevue/button'
import { useSession } from '../session/session.store.ts'
import DayPicker from './DayPicker.vue'
import { dayIn } from '../session/zone.ts'

/** The day as of whose end something is looked at; empty for now. */
const day = defineModel<string>({ required: true })
const session = useSession()
</script>

<template>
  <span class="asof quiet"
    >as of
    <DayPicker
      class="day"
      :model-value="day"
      label="As of"
      small
      :latest="dayIn(session.now)"
      @update:model-value="day = $event ?? ''"
  /></span>
  <Button v-if="day" variant="link" label="now" @click="day = ''" />
</template>

<style scoped>
.asof {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  padding-bottom: 3px;
}
.asof :deep(input) {
  width: 150px;
}
</style>
