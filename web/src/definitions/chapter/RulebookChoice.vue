<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import { useDefinitions } from '../definitions.store.ts'

/** The rulebook that a chapter is read in. */
const definitions = useDefinitions()
</script>

<template>
  <Choice
    v-model="definitions.rulebook"
    class="inline"
    label="Rulebook"
    :options="definitions.rulebooks.map((one) => ({ id: one.id, title: one.title }))"
    inline
  />
</template>
