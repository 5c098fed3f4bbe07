<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'

const { status } = defineProps<{ status: ShownChoice }>()
</script>

<template>
  <span :class="['status', status.mark]"
    ><span>{{ status.title }}</span
    ><span class="seen-not">, {{ status.mark }}</span></span
  >
</template>
