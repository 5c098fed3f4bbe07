<script setup lang="ts">
import Button from 'primevue/button'
import { useDefinitions } from './definitions.store.ts'

/** The head of a chapter: its name, the edition in force, and the way to define something new. */
const { title, make, may } = defineProps<{ title: string; make?: string; may: boolean }>()
const emit = defineEmits<{ make: [] }>()
const definitions = useDefinitions()
</script>

<template>
  <div class="row">
    <h1 class="grow">{{ title }}</h1>
    <span class="quiet"
      >edition {{ definitions.edition?.number
      }}{{ definitions.draft ? '' : ', no draft open' }}</span
    >
    <slot name="acts" />
    <Button v-if="make && may" @click="emit('make')" :label="make" />
  </div>
  <div class="meta row wrap"><slot /></div>
</template>
