<script setup lang="ts">
/** A control below its label, and below it what is wrong with it. */
const { label, wrong } = defineProps<{ label: string; wrong?: string | undefined }>()
</script>

<template>
  <label class="field"
    ><span>{{ label }}</span
    ><slot /><span v-if="wrong" class="told" role="alert">{{ wrong }}</span></label
  >
</template>
