<script setup lang="ts">
import type { Chosen } from '../api/types.ts'

const { label } = defineProps<{ label: Chosen }>()
</script>

<template>
  <span class="label" :data-colour="label.mark"
    ><i v-if="label.family">{{ label.family }}</i
    >{{ label.title }}</span
  >
</template>
