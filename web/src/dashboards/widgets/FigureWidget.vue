<script setup lang="ts">
import { computed } from 'vue'
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
const difference = computed(() => {
  const before = points.value.at(-2) ?? null
  return value.value === null || before === null ? null : value.value - before
})
const good = computed(() => {
  const { target, better } = measure.content
  if (value.value === null || target === null || better === null) return undefined
  return better === 'less' ? value.value <= target : value.value >= target
})
const unit = computed(() => measure.content.unit)
</script>

<template>
  <template v-if="answer">
    <div class="row figure">
      <RouterLink
        :to="itemsBehind(answer.present.filter)"
        :class="['big', good === undefined ? '' : good ? 'well' : 'warn']"
        :aria-label="`${widget.title}: ${value} ${unit}; open the items`"
        >{{ value === null ? '–' : numberWords(value) }}</RouterLink><span class="quiet">{{
        unit
      }}</span
      ><span class="grow" />
      <Sparkline
        v-if="points.length > 1"
        :values="points"
        :label="`${widget.title}, ${points.length} ${widget.span?.step}s`"
        :tone="good === undefined ? 'stem' : good ? 'leaf' : 'russet'"
      />
    </div>
    <p class="under">
      <template v-if="difference !== null"
        >{{
          difference === 0
            ? 'as'
            : `${numberWords(Math.abs(difference))} ${difference > 0 ? 'more' : 'fewer'} than`
        }}
        the {{ widget.span?.step }} before</template
      ><template v-if="measure.content.target !== null"
        ><template v-if="difference !== null"> · </template>target:
        {{ measure.content.better === 'more' ? 'at least' : 'at most' }}
        {{ numberWords(measure.content.target) }}</template
      >
    </p>
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
