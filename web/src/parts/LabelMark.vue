<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'

const { label } = defineProps<{ label: ShownChoice }>()
</script>

<template>
  <span class="label" :data-colour="label.mark"
    ><i v-if="label.family">{{ label.family }}</i
    >{{ label.title }}</span
  >
</template>
