<script setup lang="ts">
import { cellFilter } from '@bluestem/core/dashboards'
import { computed } from 'vue'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import { numberWords } from '../../parts/words.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { useLoaded } from '../loaded.ts'
import { evaluate } from '../measures.ts'
import NotYet from '../NotYet.vue'
import type { MeasuredWidget } from './measured.ts'

/** A figure by the values of a field, a bar for each. */
const { widget, measure, round } = defineProps<MeasuredWidget>()
const vocabulary = useVocabulary()
const { answer, told } = useLoaded(
  async () => await evaluate({ measure: measure.id, ...(widget.by ? { by: [widget.by] } : {}) }),
  () => round,
)
const bars = computed(() =>
  (answer.value?.groups ?? []).map(({ key: [choice], values: [figure] }) => ({
    id: choice?.id ?? null,
    title: choice?.title,
    figure: figure ?? 0,
  })),
)
const largest = computed(() => Math.max(1, ...bars.value.map(({ figure }) => figure)))
const by = computed(() => (widget.by ? vocabulary.property(widget.by) : undefined))
const total = computed(() => answer.value?.total[0] ?? null)
const unit = computed(() => measure.content.unit)
</script>

<template>
  <ul v-if="answer" class="bars">
    <li v-for="{ id, title, figure } in bars" :key="id ?? 'none'">
      <span class="cut name">{{ title ?? `no ${by?.title.toLowerCase()}` }}</span>
      <RouterLink
        :to="itemsBehind(cellFilter(answer.filter, by, id))"
        class="bar"
        :aria-label="`${title ?? 'none'}: ${figure} ${unit}; open the items`"
        ><i :style="{ width: `${(100 * figure) / largest}%` }" /><b>{{
          numberWords(figure)
        }}</b></RouterLink
      >
    </li>
    <li v-if="bars.length === 0" class="quiet">Nothing answers.</li>
    <li class="total quiet">
      <span class="name">all</span
      ><RouterLink :to="itemsBehind(answer.filter)"
        >{{ total === null ? '–' : numberWords(total) }} {{ unit }}</RouterLink
      >
    </li>
  </ul>
  <NotYet v-else :told="told" />
</template>

<style scoped>
.bars {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  overflow: auto;
  flex: 1;
}
.bars li {
  display: grid;
  grid-template-columns: 150px 1fr;
  align-items: center;
  min-height: 30px;
  border-bottom: 1px solid var(--hair);
}
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--ink);
}
.bar i {
  display: block;
  height: 14px;
  background: var(--stem);
  min-width: 1px;
  max-width: calc(100% - 56px);
}
.bar:hover i {
  opacity: 0.8;
}
.total {
  border: 0;
}
</style>
