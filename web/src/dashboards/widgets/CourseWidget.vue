<script setup lang="ts">
import { cellFilter } from '@bluestem/core/dashboards'
import { computed, defineAsyncComponent } from 'vue'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import { useSession } from '../../session/session.store.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { useLoaded } from '../loaded.ts'
import { courseOf, endOfStep } from '../measures.ts'
import NotYet from '../NotYet.vue'
import type { MeasuredWidget } from './measured.ts'

/** The library of charts is large, and only courses need it. */
const Course = defineAsyncComponent(async () => await import('../Course.vue'))

/** A figure over a span of days, by a field where that is wanted. */
const { widget, measure, round } = defineProps<MeasuredWidget>()
const vocabulary = useVocabulary()
const session = useSession()
const { answer, told } = useLoaded(
  async () => await courseOf(widget, measure.id, session.now),
  () => round,
)
const by = computed(() => (widget.by ? vocabulary.property(widget.by) : undefined))
function behind(index: number, key?: string | null): string {
  const { filter, steps } = answer.value ?? { filter: true, steps: [] }
  const own = key === undefined ? filter : cellFilter(filter, by.value, key)
  return itemsBehind(own, endOfStep(steps, index, session.now))
}
</script>

<template>
  <Course
    v-if="answer"
    :answer="answer"
    :title="widget.title"
    :unit="measure.content.unit"
    :behind="behind"
  />
  <NotYet v-else :told="told" />
</template>
