<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import {
  cellFilter,
  type MeasureAnswer,
  type Widget,
  type SavedMeasure,
} from '@bluestem/core/dashboards'
import type { Cql2Json, ItemsAnswer, SavedQuery } from '@bluestem/core/queries'
import { sortText } from '@bluestem/core/views'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../app/session.store.ts'
import TypeMark from '../parts/TypeMark.vue'
import ValueText from '../parts/ValueText.vue'
import { valueOf } from '../parts/valueOf.ts'
import { counted, numberWords } from '../parts/words.ts'
import Sparkline from './Sparkline.vue'
import { itemsBehind } from '../queries/itemsBehind.ts'
import { endOfStep, evaluate, spanOf } from './measures.ts'

const Course = defineAsyncComponent(async () => await import('./Course.vue'))

const { widget, measure, query, round } = defineProps<{
  widget: Widget
  measure: SavedMeasure | undefined
  query: SavedQuery | undefined
  /** counts how often the dashboard is asked anew */
  round?: number
}>()
const vocabulary = useVocabulary()
const session = useSession()
const answer = ref<MeasureAnswer>()
const present = ref<MeasureAnswer>()
const list = ref<ItemsAnswer>()
const told = ref('')

async function load(): Promise<void> {
  try {
    told.value = ''
    if (widget.kind === 'list') {
      if (!query)
        return void (told.value =
          'The query behind this list may not be seen by you, or was deleted.')
      list.value = await call('POST /items/search', {
        body: {
          filter: query.content.filter,
          kept: true,
          sort: sortText(query.content.order),
          fields: 'title,status,priority,due,assignee',
          limit: 40,
        },
      })
      return
    }
    if (!measure)
      return void (told.value =
        'The measure behind this figure may not be seen by you, or was deleted.')
    const over = widget.span
      ? { over: { ...spanOf(widget.span.days, session.now), step: widget.span.step } }
      : {}
    if (widget.kind === 'figure') present.value = await evaluate({ measure: measure.id })
    if (widget.kind !== 'figure' || widget.span)
      answer.value = await evaluate({
        measure: measure.id,
        ...(widget.by ? { by: [widget.by] } : {}),
        ...(widget.kind === 'bars' ? {} : over),
      })
  } catch (error) {
    told.value = messageOf(error)
  }
}
onMounted(load)
watch(
  () => round,
  () => void load(),
)

const value = computed(() => present.value?.total[0] ?? null)
const points = computed(() => answer.value?.total ?? [])
const before = computed(() => points.value.at(-2) ?? null)
const difference = computed(() =>
  value.value === null || before.value === null || before.value === undefined
    ? null
    : value.value - before.value,
)
const good = computed(() => {
  const { target, better } = measure?.content ?? { target: null, better: null }
  if (value.value === null || target === null || better === null) return undefined
  return better === 'less' ? value.value <= target : value.value >= target
})
const largest = computed(() =>
  Math.max(1, ...(answer.value?.groups.map((group) => group.values[0] ?? 0) ?? [])),
)
const by = computed(() => (widget.by ? vocabulary.property(widget.by) : undefined))
const behind = (key: string | null): string =>
  itemsBehind(cellFilter(answer.value!.filter as Cql2Json, by.value, key))
const stepBehind = (index: number, key?: string | null): string =>
  itemsBehind(
    key === undefined
      ? answer.value!.filter
      : cellFilter(answer.value!.filter as Cql2Json, by.value, key),
    endOfStep(answer.value!.steps, index, session.now),
  )
const unit = computed(() => measure?.content.unit ?? '')
</script>

<template>
  <p v-if="told" class="told" role="alert">{{ told }}</p>
  <template v-else-if="widget.kind === 'figure' && present">
    <div class="row figure">
      <RouterLink
        :to="itemsBehind(present.filter)"
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
      ><template v-if="measure?.content.target !== null && measure?.content.target !== undefined"
        ><template v-if="difference !== null"> · </template>target:
        {{ measure.content.better === 'more' ? 'at least' : 'at most' }}
        {{ numberWords(measure.content.target) }}</template
      >
    </p>
  </template>
  <ul v-else-if="widget.kind === 'bars' && answer" class="bars">
    <li v-for="group in answer.groups" :key="group.key[0]?.id ?? 'none'">
      <span class="cut name">{{ group.key[0]?.title ?? `no ${by?.title.toLowerCase()}` }}</span>
      <RouterLink
        :to="behind(group.key[0]?.id ?? null)"
        class="bar"
        :aria-label="`${group.key[0]?.title ?? 'none'}: ${group.values[0]} ${unit}; open the items`"
        ><i :style="{ width: `${(100 * (group.values[0] ?? 0)) / largest}%` }" /><b>{{
          numberWords(group.values[0] ?? 0)
        }}</b></RouterLink
      >
    </li>
    <li v-if="answer.groups.length === 0" class="quiet">Nothing answers.</li>
    <li class="total quiet">
      <span class="name">all</span
      ><RouterLink :to="itemsBehind(answer.filter)"
        >{{ answer.total[0] === null ? '–' : numberWords(answer.total[0]!) }} {{ unit }}</RouterLink
      >
    </li>
  </ul>
  <Course
    v-else-if="widget.kind === 'course' && answer"
    :answer="answer"
    :title="widget.title"
    :unit="unit"
    :behind="stepBehind"
  />
  <div
    v-else-if="widget.kind === 'list' && list"
    class="list"
    tabindex="0"
    :aria-label="widget.title"
  >
    <p class="quiet">
      <RouterLink :to="`/queries/${query!.id}`">{{ counted(list.total, 'answer') }}</RouterLink>
    </p>
    <DataTable
      :value="[...list.items]"
      data-key="ref"
      table-class="ledger"
      :show-headers="false"
      :table-props="{ 'aria-label': 'Answers' }"
      ><Column
        ><template #body="{ data: item }"
          ><span class="quiet ref">{{ item.ref }}</span></template
        ></Column
      >
      <Column
        ><template #body="{ data: item }"
          ><span class="mark"
            ><TypeMark :mark="String(item.type.mark)" :title="item.type.title" /></span></template
      ></Column>
      <Column class="cut"
        ><template #body="{ data: item }"
          ><RouterLink :to="`/work/${item.ref}`">{{ item.title }}</RouterLink></template
        ></Column
      >
      <Column class="num"
        ><template #body="{ data: item }"
          ><ValueText handle="due" :value="valueOf(item, 'due')" /></template></Column
    ></DataTable>
    <p v-if="list.items.length === 0" class="quiet">Nothing answers, which may be just right.</p>
  </div>
  <p v-else class="quiet">…</p>
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
.list {
  overflow: auto;
  flex: 1;
  position: relative;
}
.list p {
  margin: 2px 0;
}
.ref {
  width: 84px;
}
.mark {
  width: 34px;
}
.list table {
  table-layout: fixed;
}
.list .num {
  width: 96px;
}
.list .cut {
  max-width: 0;
}
.list a {
  color: var(--ink);
}
</style>
