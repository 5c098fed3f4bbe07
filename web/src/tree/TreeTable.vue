<script setup lang="ts">
import { moveOf, type Standing, standsIn, type Step, type TreeRow } from '@bluestem/core/tree'
import type { OfferedType } from '@bluestem/core/projects'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../app/session.store.ts'
import AddBelow from '../work/AddBelow.vue'
import DoneBar from '../parts/DoneBar.vue'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { numberWords } from '../parts/words.ts'
import type { useTree } from './useTree.ts'

/** The rows of a tree: unfolded and moved by keyboard or pointer, of very many only those in sight are made. */
const { tree, types, project } = defineProps<{
  tree: ReturnType<typeof useTree>
  label: string
  types: readonly OfferedType[]
  project: string
}>()
const emit = defineEmits<{ select: [TreeRow]; made: [] }>()
const session = useSession()
const router = useRouter()
const box = ref<HTMLElement>()
const at = ref(0)
/** the row below which lines are written */
const adding = ref<string>()

type Shown = Standing<TreeRow>
type Line = { readonly row: Shown } | { readonly below: Shown }

/** The rows in sight, and after the last below one the line for the next. */
const lines = computed((): Line[] => {
  const rows = tree.shown.value
  const place = rows.findIndex((row) => row.ref === adding.value)
  if (place < 0) return rows.map((row) => ({ row }))
  const above = rows[place]!
  const rest = rows.slice(place + 1)
  const until = rest.findIndex((row) => row.depth <= above.depth)
  const end = place + 1 + (until < 0 ? rest.length : until)
  return [
    ...rows.slice(0, end).map((row) => ({ row })),
    { below: above },
    ...rows.slice(end).map((row) => ({ row })),
  ]
})
const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => 32,
    overscan: 12,
  })),
)
const visible = computed(() =>
  virtual.value
    .getVirtualItems()
    .map(({ index, start }) => ({ index, start, line: lines.value[index]! })),
)
const rowAt = (index: number): Shown | undefined => {
  const line = lines.value[index]
  return line && 'row' in line ? line.row : undefined
}

function go(index: number): void {
  at.value = Math.max(0, Math.min(lines.value.length - 1, index))
  virtual.value.scrollToIndex(at.value)
  const row = rowAt(at.value)
  if (row) emit('select', row)
}

/** A row keeps the cursor wherever it goes. */
async function follow(row: Shown): Promise<void> {
  await nextTick()
  const index = lines.value.findIndex((line) => 'row' in line && line.row.ref === row.ref)
  if (index >= 0) go(index)
}

async function step(row: Shown, by: Step): Promise<void> {
  const move = moveOf(tree.shown.value, row.ref, by)
  if (!move || !session.mayEdit) return
  await tree.move(row, move)
  await follow(row)
}

function unfoldOrEnter(row: Shown): void {
  if (row.directly > 0 && !tree.open.has(row.ref)) void tree.unfold(row)
  else if (row.directly > 0) go(at.value + 1)
}
function foldOrLeave(row: Shown): void {
  if (tree.open.has(row.ref) && row.directly > 0) tree.fold(row)
  else {
    const above = lines.value.findIndex((line) => 'row' in line && line.row.ref === row.parent)
    if (above >= 0) go(above)
  }
}

function breakDown(row: Shown): void {
  if (!session.mayEdit) return
  void tree.unfold(row)
  adding.value = row.ref
}

const steps: Readonly<Record<string, Step>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
}

function keys(event: KeyboardEvent): void {
  const row = rowAt(at.value)
  if (event.target !== box.value || event.ctrlKey || event.metaKey) return
  const acts: Record<string, () => unknown> = {
    ArrowDown: () => go(at.value + 1),
    ArrowUp: () => go(at.value - 1),
    PageDown: () => go(at.value + 15),
    PageUp: () => go(at.value - 15),
    Home: () => go(0),
    End: () => go(lines.value.length - 1),
    ...(row
      ? {
          ArrowRight: () => unfoldOrEnter(row),
          ArrowLeft: () => foldOrLeave(row),
          Enter: () => router.push(`/work/${row.ref}`),
          b: () => breakDown(row),
        }
      : {}),
  }
  const by = steps[event.key]
  const act = event.altKey ? row && by && (() => step(row, by)) : acts[event.key]
  if (!act) return
  event.preventDefault()
  void act()
}

/** What is dragged, and where it would go: before a row, after it, or below it. */
const dragged = ref<Shown>()
const target = ref<{ readonly ref: string; readonly place: 'before' | 'after' | 'in' }>()

function drag(event: DragEvent, row: Shown): void {
  dragged.value = row
  event.dataTransfer?.setData('text/plain', row.ref)
}
function over(event: DragEvent, row: Shown): void {
  const moved = dragged.value
  if (!moved || standsIn(tree.shown.value, row.ref, moved.ref))
    return void (target.value = undefined)
  event.preventDefault()
  const { top, height } = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const share = (event.clientY - top) / height
  const place = share < 0.25 ? 'before' : share > 0.75 ? 'after' : 'in'
  target.value = { ref: row.ref, place }
}
async function drop(row: Shown): Promise<void> {
  const [moved, to] = [dragged.value, target.value]
  endDrag()
  if (!moved || !to) return
  const beside = to.place === 'before' ? { before: row.ref } : { after: row.ref }
  const isMoved = moved.parent !== row.parent
  await tree.move(
    moved,
    to.place === 'in'
      ? { parent: row.ref }
      : { ...(isMoved ? { parent: row.parent } : {}), position: beside },
  )
  await follow(moved)
}
function endDrag(): void {
  dragged.value = undefined
  target.value = undefined
}

function select(index: number): void {
  at.value = index
  const row = rowAt(index)
  if (row) emit('select', row)
}
function closeLine(): void {
  adding.value = undefined
  box.value?.focus()
}

const estimateWords = ({ below }: TreeRow): string =>
  below.estimates
    .map(({ unit, done, all }) => `${numberWords(done)} / ${numberWords(all)} ${unit}`)
    .join(', ')
</script>

<template>
  <div
    ref="box"
    class="tree"
    role="treegrid"
    :aria-label="label"
    :aria-rowcount="lines.length + 1"
    tabindex="0"
    :aria-activedescendant="lines.length ? `branch-${at}` : undefined"
    @keydown="keys"
  >
    <div class="head line" role="row">
      <span role="columnheader">Ref</span><span role="columnheader">Title</span
      ><span role="columnheader">Status</span><span role="columnheader" class="num">Done below</span
      ><span role="columnheader" class="num">Of estimate</span
      ><span role="columnheader">Assignee</span>
    </div>
    <div class="rows" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="{ index, start, line } in visible" :key="index">
        <div
          v-if="'below' in line"
          class="line adding"
          role="row"
          :style="{ transform: `translateY(${start}px)` }"
        >
          <span
            role="gridcell"
            class="whole"
            :style="{ paddingLeft: `${86 + (line.below.depth + 1) * 22}px` }"
            ><AddBelow
              :above="line.below"
              :types="types"
              :project="project"
              @made="emit('made')"
              @close="closeLine"
          /></span>
        </div>
        <div
          v-else
          :id="`branch-${index}`"
          :class="[
            'line',
            { selected: index === at, dragged: dragged?.ref === line.row.ref },
            target?.ref === line.row.ref ? target.place : '',
          ]"
          role="row"
          :aria-level="line.row.depth + 1"
          :aria-posinset="line.row.place"
          :aria-setsize="line.row.of"
          :aria-expanded="line.row.directly ? tree.open.has(line.row.ref) : undefined"
          :aria-selected="index === at"
          :aria-rowindex="index + 2"
          :style="{ transform: `translateY(${start}px)` }"
          :data-ref="line.row.ref"
          :draggable="session.mayEdit"
          @click="select(index)"
          @dragstart="drag($event, line.row)"
          @dragover="over($event, line.row)"
          @drop.prevent="drop(line.row)"
          @dragend="endDrag"
        >
          <span role="gridcell"
            ><RouterLink class="ref" tabindex="-1" :to="`/work/${line.row.ref}`">{{
              line.row.ref
            }}</RouterLink></span
          >
          <span
            role="gridcell"
            class="title"
            :style="{ paddingLeft: `${8 + line.row.depth * 22}px` }"
          >
            <button
              v-if="line.row.directly"
              type="button"
              class="turn"
              tabindex="-1"
              :aria-label="`${tree.open.has(line.row.ref) ? 'Fold' : 'Unfold'} ${line.row.ref}`"
              @click.stop="
                tree.open.has(line.row.ref) ? tree.fold(line.row) : tree.unfold(line.row)
              "
            >
              {{ tree.open.has(line.row.ref) ? '–' : '+' }}
            </button>
            <span v-else class="turn" />
            <TypeMark :mark="String(line.row.type.mark)" :title="line.row.type.title" />
            <RouterLink
              class="name cut"
              tabindex="-1"
              :to="`/work/${line.row.ref}`"
              :title="line.row.title"
              >{{ line.row.title }}</RouterLink
            >
            <span v-if="line.row.onHold" class="warn nowrap">on hold</span>
            <span v-for="one in line.row.waits.slice(0, 1)" :key="one.id" class="warn nowrap"
              >{{ one.title }}
              <RouterLink tabindex="-1" :to="`/work/${one.id}`">{{ one.id }}</RouterLink></span
            >
          </span>
          <span role="gridcell" class="cut"><StatusMark :status="line.row.status" /></span>
          <span role="gridcell" class="num"
            ><DoneBar
              v-if="line.row.below.items"
              :done="line.row.below.done"
              :of="line.row.below.items"
              :label="`Done below ${line.row.ref}`"
          /></span>
          <span role="gridcell" class="num cut" :title="estimateWords(line.row)">{{
            estimateWords(line.row)
          }}</span>
          <span role="gridcell" class="cut">{{ line.row.assignee }}</span>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.tree {
  flex: 1;
  min-height: 120px;
  overflow: auto;
  outline-offset: -2px;
}
.rows {
  position: relative;
  min-width: 760px;
}
.line {
  display: grid;
  grid-template-columns: 86px minmax(220px, 1fr) 132px 110px 130px 112px;
  align-items: center;
  height: 32px;
  border-bottom: 1px solid var(--hair);
  font-size: 13.5px;
}
.line > span {
  padding: 0 8px;
}
.rows .line {
  position: absolute;
  inset: 0 0 auto;
}
.head {
  position: sticky;
  top: 0;
  z-index: 2;
  min-width: 760px;
  background: var(--paper);
  border-bottom-color: var(--rule);
  font-size: 12px;
  font-weight: 600;
  color: var(--quiet);
}
.num {
  text-align: right;
}
.title {
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.title .nowrap {
  font-size: 12.5px;
}
.name {
  color: var(--ink);
}
.ref {
  color: var(--quiet);
}
.turn {
  flex: none;
  width: 16px;
  border: 0;
  background: none;
  padding: 0;
  color: var(--quiet);
  cursor: pointer;
}
.rows .line:hover {
  background: var(--wash);
}
.rows .line.selected {
  background: var(--stem-wash);
}
.rows .line.dragged {
  opacity: 0.5;
}
.rows .line.in {
  background: var(--leaf-wash);
}
.rows .line.before {
  box-shadow: inset 0 2px var(--stem);
}
.rows .line.after {
  box-shadow: inset 0 -2px var(--stem);
}
.rows .adding {
  display: flex;
}
.whole {
  flex: 1;
  min-width: 0;
}
</style>
