<script setup lang="ts">
import type { Chart } from 'chart.js'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { theme, token } from '../theme/theme.ts'
import { sparkline } from './sparkline.ts'

/** A course in small, beside the figure that it leads to. */
const { values, label, tone } = defineProps<{
  values: readonly (number | null)[]
  label: string
  tone: 'stem' | 'leaf' | 'russet'
}>()
const canvas = ref<HTMLCanvasElement>()
let chart: Chart | undefined

async function draw(): Promise<void> {
  const charts = await import('./charts.ts')
  chart?.destroy()
  if (canvas.value) chart = new charts.Chart(canvas.value, sparkline(values, token(tone)))
}
onMounted(draw)
watch([theme, () => values, () => tone], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <span class="sparkline"><canvas ref="canvas" role="img" :aria-label="label" /></span>
</template>

<style scoped>
.sparkline {
  position: relative;
  flex: 0 1 110px;
  height: 34px;
  min-width: 24px;
}
</style>
