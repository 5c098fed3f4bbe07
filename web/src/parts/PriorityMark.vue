<script setup lang="ts">
import type { Chosen } from '../api/types.ts'

const { priority } = defineProps<{ priority: Chosen }>()
</script>

<template>
  <span class="priority"
    ><b>{{ priority.mark ?? '–' }}</b
    >{{ priority.title }}</span
  >
</template>
