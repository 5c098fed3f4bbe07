<script setup lang="ts">
import Button from 'primevue/button'
import { useSlots } from 'vue'
import Explained from '../../parts/Explained.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** The head of a chapter: its name, the edition in force, and the way to define something new. */
const {
  title,
  about,
  make,
  may,
  living = false,
  guide = 'changing-what-others-share',
} = defineProps<{
  title: string
  /** one line of what it is for, in which words between stars open their meaning */
  about?: string
  make?: string
  may: boolean
  /** whether its entries change at once, without an edition */
  living?: boolean
  /** the page of the guide that tells more */
  guide?: string
}>()
const slots = useSlots()
const emit = defineEmits<{ make: [] }>()
const definitions = useDefinitions()
</script>

<template>
  <div class="row">
    <h1 class="grow">{{ title }}</h1>
    <span v-if="!living" class="quiet"
      >edition {{ definitions.edition?.number
      }}{{ definitions.draft ? '' : ', no draft open' }}</span
    >
    <slot name="acts" />
    <Button v-if="make && may" @click="emit('make')" :label="make" />
  </div>
  <p v-if="about" class="meta about">
    <Explained :text="about" />{{ ' ' }}<RouterLink :to="`/guide/${guide}`">guide</RouterLink>
  </p>
  <div v-if="slots.default" class="meta row wrap tools"><slot /></div>
</template>

<style scoped>
.about {
  margin-bottom: 6px;
}
.tools {
  gap: 6px 8px;
}
</style>
