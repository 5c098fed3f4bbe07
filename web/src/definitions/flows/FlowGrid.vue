<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Phase } from '@bluestem/core/queries'
import type { Flow, Status } from '@bluestem/core/definitions'
import StatusMark from '../../parts/StatusMark.vue'
import { around } from '../../parts/eventTarget.ts'
import FlowCell from './FlowCell.vue'

export interface Cell {
  readonly from: string
  readonly to: string
}

/** A flow as a grid, from × to: what is allowed, what the draft would change, and how often each move was really made. */
const {
  flow,
  before,
  statuses,
  made,
  mayEdit,
  selected,
  asks = () => '',
} = defineProps<{
  flow: Flow
  before: Flow
  statuses: Readonly<Record<string, Status>>
  made: Readonly<Record<string, number>>
  mayEdit: boolean
  selected: Cell | undefined
  asks?: (status: string) => string
}>()
const emit = defineEmits<{
  toggle: [Cell]
  look: [Cell]
  status: [string]
  requirement: [string]
  place: [status: string, at: number]
}>()
const most = computed(() => Math.max(1, ...Object.values(made)))
const shown = (id: string): { id: string; title: string; mark: string } => ({
  id,
  title: statuses[id]?.title ?? id,
  mark: statuses[id]?.phase ?? 'idle',
})

/** Statuses beside each other that are in one phase, which is said above them once. */
const bands = computed(() =>
  flow.statuses.reduce<{ readonly phase: Phase; readonly count: number }[]>((all, id) => {
    const phase = statuses[id]?.phase ?? 'idle'
    const last = all.at(-1)
    return last?.phase === phase
      ? [...all.slice(0, -1), { phase, count: last.count + 1 }]
      : [...all, { phase, count: 1 }]
  }, []),
)
const bandWords: Readonly<Record<Phase, string>> = {
  idle: 'not begun, or at rest',
  active: 'being worked on',
  done: 'finished',
  dropped: 'will not be done',
}

const dragged = ref<string>()
/** A column that is dropped on another one takes its place. */
function drop(to: string): void {
  const id = dragged.value
  dragged.value = undefined
  if (id !== undefined && id !== to) emit('place', id, flow.statuses.indexOf(to))
}

/** Alt and an arrow move a status to the next place; it keeps the focus there. */
function shift(event: KeyboardEvent, id: string): void {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!mayEdit || !event.altKey || step === undefined) return
  event.preventDefault()
  const at = flow.statuses.indexOf(id) + step
  if (at < 0 || at >= flow.statuses.length) return
  emit('place', id, at)
  const stop = watch(
    () => flow.statuses.indexOf(id),
    async () => {
      stop()
      await nextTick()
      document.querySelector<HTMLElement>(`[data-status="${id}"]`)?.focus()
    },
  )
}

/** Arrows walk over the grid; the cells are buttons, so Enter and Space press them. */
function walk(event: KeyboardEvent): void {
  const steps: Readonly<Record<string, readonly [down: number, right: number]>> = {
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
  }
  const step = steps[event.key]
  const button = around(event, '[data-cell]')
  if (!step || !button) return
  event.preventDefault()
  let [row = 0, column = 0] = (button.dataset['cell'] ?? '').split(',').map(Number)
  for (;;) {
    row += step[0]
    column += step[1]
    if (row < 0 || column < 0 || row >= flow.statuses.length || column >= flow.statuses.length)
      return
    const next = document.querySelector<HTMLElement>(`[data-cell="${row},${column}"]`)
    if (next) return next.focus()
  }
}
</script>

<template>
  <div class="frame">
    <!-- Names in its head stay whole words however many statuses there are. -->
    <table
      class="grid"
      :style="{ minWidth: `${150 + 78 * flow.statuses.length}px` }"
      @keydown="walk"
    >
      <thead>
        <tr class="bands">
          <td />
          <th
            v-for="(band, index) in bands"
            :key="index"
            scope="colgroup"
            :colspan="band.count"
            :title="bandWords[band.phase]"
          >
            {{ band.phase }} <span class="quiet">{{ bandWords[band.phase] }}</span>
          </th>
        </tr>
        <tr>
          <th scope="col" class="quiet">from \ to</th>
          <th
            v-for="to in flow.statuses"
            :key="to"
            scope="col"
            :draggable="mayEdit"
            :class="{ taken: dragged === to }"
            @dragstart="dragged = to"
            @dragend="dragged = undefined"
            @dragover.prevent
            @drop.prevent="drop(to)"
          >
            <button
              class="plain name"
              type="button"
              :data-status="to"
              :aria-keyshortcuts="mayEdit ? 'Alt+ArrowLeft Alt+ArrowRight' : undefined"
              @click="emit('status', to)"
              @keydown="shift($event, to)"
            >
              <StatusMark :status="shown(to)" />
            </button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(from, row) in flow.statuses" :key="from">
          <th scope="row">
            <button class="plain name" type="button" @click="emit('status', from)">
              <StatusMark :status="shown(from)" />
            </button>
          </th>
          <td v-for="(to, column) in flow.statuses" :key="to" :class="{ same: from === to }">
            <FlowCell
              v-if="from !== to"
              :move="`${statuses[from]?.title} to ${statuses[to]?.title}`"
              :now="flow.moves.has(`${from}:${to}`)"
              :was="before.moves.has(`${from}:${to}`)"
              :count="made[`${from}:${to}`] ?? 0"
              :most="most"
              :selected="selected?.from === from && selected.to === to"
              :data-cell="`${row},${column}`"
              :tabindex="row === 0 && column === 1 ? 0 : -1"
              @click="mayEdit ? emit('toggle', { from, to }) : emit('look', { from, to })"
              @focus="emit('look', { from, to })"
            />
          </td>
        </tr>
        <tr class="needs">
          <th scope="row">to enter, needs</th>
          <td v-for="to in flow.statuses" :key="to">
            <button
              v-if="mayEdit"
              class="plain"
              type="button"
              :aria-label="`To enter ${statuses[to]?.title}: ${asks(to) || 'nothing'}`"
              @click="emit('requirement', to)"
            >
              {{ asks(to) || '·' }}</button><span v-else>{{ asks(to) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
}
.grid {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
th {
  font: 600 12px var(--sans);
  text-align: left;
  padding: 4px 6px;
  border: 1px solid var(--hair);
}
thead th {
  vertical-align: bottom;
}
thead th[draggable='true'] {
  cursor: grab;
}
.taken {
  opacity: 0.5;
}
.bands td {
  /* The first row says how wide the columns are. */
  width: 150px;
  border: 0;
  height: auto;
}
.bands th {
  padding: 2px 6px;
  border-width: 0 0 0 1px;
  border-color: var(--rule);
  font-size: 11.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.bands span {
  font-weight: 400;
}
tbody th {
  font-weight: 400;
  font-size: 14px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
thead .name :deep(.status) {
  white-space: normal;
}
.name {
  color: var(--ink);
  text-align: left;
  font: inherit;
}
td {
  border: 1px solid var(--hair);
  padding: 0;
  height: 32px;
}
.same {
  background: var(--wash);
}
.needs td {
  text-align: center;
  font-size: 12px;
  padding: 4px 3px;
  color: var(--quiet);
}
.needs button {
  color: var(--quiet);
  min-height: 24px;
  min-width: 24px;
}
</style>
