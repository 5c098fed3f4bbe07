<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'

const { priority } = defineProps<{ priority: ShownChoice }>()
</script>

<template>
  <span class="priority"
    ><b>{{ priority.mark ?? '–' }}</b
    >{{ priority.title }}</span
  >
</template>
