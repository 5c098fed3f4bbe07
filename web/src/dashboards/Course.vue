<script setup lang="ts">
import { certain, elementAt } from '@bluestem/core/known'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Button from 'primevue/button'
import type { ChartConfiguration } from 'chart.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { MeasureAnswer } from '@bluestem/core/dashboards'
import { theme, token } from '../theme/theme.ts'
import { dayWords, numberWords } from '../parts/words.ts'
import { Chart } from './charts.ts'

/** A measure over time: one area for each group, or one line. Every point opens its items; the same stands as a table. */
const { answer, title, unit, behind } = defineProps<{
  answer: MeasureAnswer
  title: string
  unit: string
  behind: (step: number, key?: string | null) => string
}>()
const router = useRouter()
const canvas = ref<HTMLCanvasElement>()
const asTable = ref(false)
let chart: Chart | undefined
const colours = ['c1', 'c6', 'c3', 'c7', 'c2', 'c4', 'c8', 'c5', 'c9']
const series = computed(() =>
  answer.by.length
    ? answer.groups.map((group) => ({
        title: group.key[0]?.title ?? 'none',
        key: group.key[0]?.id ?? null,
        values: group.values,
      }))
    : [{ title, key: undefined, values: answer.total }],
)

function configuration(): ChartConfiguration<'line'> {
  const stacked = answer.by.length > 0
  return {
    type: 'line',
    data: {
      labels: answer.steps.map((step) => dayWords(step)),
      datasets: series.value.map((sery, index) => ({
        label: sery.title,
        data: [...sery.values],
        borderColor: token(stacked ? elementAt(colours, index % 9) : 'stem'),
        backgroundColor: token(stacked ? elementAt(colours, index % 9) : 'stem'),
        fill: stacked,
        borderWidth: 1.5,
        pointRadius: 0,
        pointHitRadius: 8,
        tension: 0,
      })),
    },
    options: {
      responsive: true,
      maintainAspectRatio: false,
      interaction: { mode: 'nearest', intersect: false, axis: 'x' },
      scales: {
        x: {
          grid: { display: false },
          border: { color: token('rule') },
          ticks: { color: token('quiet'), maxTicksLimit: 8, maxRotation: 0 },
        },
        y: {
          stacked,
          beginAtZero: true,
          grid: { color: token('hair') },
          border: { display: false },
          ticks: { color: token('quiet'), maxTicksLimit: 5 },
        },
      },
      plugins: {
        legend: { display: false },
        tooltip: {
          backgroundColor: token('ink'),
          titleColor: token('paper'),
          bodyColor: token('paper'),
          cornerRadius: 2,
          displayColors: false,
        },
      },
      onClick: (event, _, own) => {
        const [hit] = own.getElementsAtEventForMode(
          certain(event.native, 'event'),
          stacked ? 'nearest' : 'index',
          { intersect: false },
          true,
        )
        if (hit) void router.push(behind(hit.index, series.value[hit.datasetIndex]?.key))
      },
    },
  }
}

async function draw(): Promise<void> {
  // The canvas needs the font before it draws with it.
  await document.fonts.load("12px 'Source Sans 3 Variable'").catch(() => undefined)
  Chart.defaults.font = { family: "'Source Sans 3 Variable', sans-serif", size: 12 }
  chart?.destroy()
  if (canvas.value) chart = new Chart(canvas.value, configuration())
}
onMounted(draw)
watch([theme, () => answer, asTable], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => chart?.destroy())
const steps = computed(() => answer.steps.map((step) => ({ step })))
</script>

<template>
  <div class="row key">
    <span
      v-for="(entry, index) in answer.by.length ? series : []"
      :key="entry.title"
      class="label"
      :data-colour="Number(elementAt(colours, index % 9).slice(1))"
      >{{ entry.title }}</span><span class="grow" />
    <span
      v-if="answer.method === 'steps'"
      class="quiet"
      title="The query asks about time itself, so each step was asked on its own."
      >asked step by step</span
    >
    <Button
      variant="link"
      @click="asTable = !asTable"
      :label="asTable ? 'as a drawing' : 'as a table'"
    />
  </div>
  <div v-if="!asTable" class="plot">
    <canvas
      ref="canvas"
      role="img"
      :aria-label="`${title}: ${series.map((row) => `${row.title} ${row.values.findLast((value) => value !== null) ?? 0}`).join(', ')} ${unit} now`"
    />
  </div>
  <div v-else class="plot scroll" tabindex="0" :aria-label="`${title} as a table`">
    <DataTable
      :value="steps"
      data-key="step"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Figures' }"
    >
      <Column header="From">
        <template #body="{ data: row }"
          ><span class="quiet">{{ dayWords(row.step) }}</span></template
        >
      </Column>
      <Column v-for="sery in series" :key="sery.title" :header="sery.title" class="num">
        <template #body="{ index }">
          <RouterLink v-if="sery.values[index] !== null" :to="behind(index, sery.key)">{{
            numberWords(sery.values[index] ?? 0)
          }}</RouterLink>
        </template>
      </Column>
    </DataTable>
  </div>
</template>

<style scoped>
.key {
  font-size: 12.5px;
  min-height: 22px;
}
.plot {
  flex: 1;
  min-height: 0;
  position: relative;
}
.scroll {
  overflow: auto;
}
canvas {
  cursor: pointer;
}
</style>
