<script setup lang="ts">
import { computed } from 'vue'
import {
  differenceToBefore,
  differenceWords,
  meetsTarget,
  targetWords,
} from '@bluestem/core/dashboards'
import { useSession } from '../../session/session.store.ts'
import { numberWords } from '../../parts/words.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { useLoaded } from '../loaded.ts'
import { courseOf, evaluate } from '../measures.ts'
import NotYet from '../NotYet.vue'
import type { MeasuredWidget } from './measured.ts'
import Sparkline from '../Sparkline.vue'

/** One figure as it is now, against its target, with its course behind it. */
const { widget, measure, round } = defineProps<MeasuredWidget>()
const session = useSession()
const { answer, told } = useLoaded(
  async () => ({
    present: await evaluate({ measure: measure.id }),
    course: widget.span ? await courseOf(widget, measure.id, session.now) : undefined,
  }),
  () => round,
)
const value = computed(() => answer.value?.present.total[0] ?? null)
const points = computed(() => answer.value?.course?.total ?? [])
const difference = computed(() => differenceToBefore(value.value, points.value))
const isMet = computed(() => meetsTarget(value.value, measure.content))
const unit = computed(() => measure.content.unit)
const tones = computed(() => {
  if (isMet.value === undefined) return { figure: '', course: 'stem' as const }
  return isMet.value
    ? { figure: 'well', course: 'leaf' as const }
    : { figure: 'warn', course: 'russet' as const }
})
/** The difference to the step before, and the target. */
const under = computed(() => {
  const change =
    difference.value === null
      ? ''
      : differenceWords(difference.value, widget.span?.step ?? 'step', numberWords)
  const target = targetWords(measure.content, numberWords)
  return [change, target && `target: ${target}`].filter(Boolean).join(' · ')
})
</script>

<template>
  <template v-if="answer">
    <div class="row figure">
      <RouterLink
        :to="itemsBehind(answer.present.filter)"
        :class="['big', tones.figure]"
        :aria-label="`${widget.title}: ${value} ${unit}; open the items`"
        >{{ value === null ? '–' : numberWords(value) }}</RouterLink><span class="quiet">{{
        unit
      }}</span
      ><span class="grow" />
      <Sparkline
        v-if="points.length > 1"
        :values="points"
        :label="`${widget.title}, ${points.length} ${widget.span?.step}s`"
        :tone="tones.course"
      />
    </div>
    <p class="under">{{ under }}</p>
  </template>
  <NotYet v-else :told="told" />
</template>

<style scoped>
.figure {
  align-items: baseline;
  margin-top: 2px;
}
.big {
  font: 400 36px/1 var(--serif);
  color: var(--ink);
}
.big.well {
  color: var(--leaf);
}
.big.warn {
  color: var(--russet);
}
.under {
  font-size: 12.5px;
  color: var(--quiet);
  margin-top: 6px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
