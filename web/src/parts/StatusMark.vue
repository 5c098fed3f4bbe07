<script setup lang="ts">
import type { Chosen } from '../api/types.ts'

const { status } = defineProps<{ status: Chosen }>()
</script>

<template>
  <span :class="['status', status.mark]"
    ><span>{{ status.title }}</span
    ><span class="seen-not">, {{ status.mark }}</span></span
  >
</template>
