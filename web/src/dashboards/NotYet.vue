<script setup lang="ts">
/** What stands in place of a widget that has no answer yet, or got none. */
defineProps<{ told: string }>()
</script>

<template>
  <p v-if="told" class="told" role="alert">{{ told }}</p>
  <p v-else class="quiet">…</p>
</template>
