<script setup lang="ts">
import { computed } from 'vue'

/** `mark` is the monogram followed by the tier: “De1”. */
const { mark, title } = defineProps<{ mark: string; title: string }>()
const tier = computed(() => Number(mark.at(-1)) || 0)
</script>

<template>
  <span :class="['type', `t${tier}`]" :title="title" role="img" :aria-label="title"
    >{{ mark.slice(0, 2) }}<i aria-hidden="true"><b v-for="line in tier" :key="line" /></i
  ></span>
</template>
