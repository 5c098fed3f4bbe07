<script setup lang="ts">
import { useDefinitions } from './definitions.store.ts'

/** The rulebook that a chapter is read in. */
const definitions = useDefinitions()
</script>

<template>
  <select v-model="definitions.rulebook" aria-label="Rulebook" class="inline">
    <option v-for="one in definitions.rulebooks" :key="one.id" :value="one.id">
      {{ one.title }}
    </option>
  </select>
</template>
