<script setup lang="ts">
import { certain, elementAt } from '@bluestem/core/known'
import { moveOf, type Standing, standsIn, type Step, type TreeRow } from '@bluestem/core/tree'
import type { OfferedType } from '@bluestem/core/projects'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref } from 'vue'
import { useRouter } from 'vue-router'
import AddBelow from '../work/AddBelow.vue'
import TreeBranch from './TreeBranch.vue'
import type { useTree } from './useTree.ts'
import { around } from '../parts/eventTarget.ts'

/** The rows of a tree: unfolded and moved by keyboard or pointer, of very many only those in sight are made. */
const { tree, types, project, mayChange } = defineProps<{
  tree: ReturnType<typeof useTree>
  label: string
  types: readonly OfferedType[]
  project: string
  mayChange: boolean
}>()
const emit = defineEmits<{ select: [TreeRow]; made: [] }>()
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
  const above = elementAt(rows, place)
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
    overscan: 8,
  })),
)
const visible = computed(() =>
  virtual.value
    .getVirtualItems()
    .map(({ index, start }) => ({ index, start, line: elementAt(lines.value, index) })),
)
/** A row that leaves at one end of the window comes in at the other: it is filled anew, not made anew. */
const slots = computed((before?: number) => Math.max(before ?? 1, visible.value.length))
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
  if (!move || !mayChange) return
  await tree.move(row, move)
  await follow(row)
}

function unfoldOrEnter(row: Shown): void {
  if (row.directly > 0 && !tree.isOpen(row.ref)) void tree.unfold(row)
  else if (row.directly > 0) go(at.value + 1)
}
function foldOrLeave(row: Shown): void {
  if (tree.isOpen(row.ref) && row.directly > 0) tree.fold(row)
  else {
    const above = lines.value.findIndex((line) => 'row' in line && line.row.ref === row.parent)
    if (above >= 0) go(above)
  }
}

function breakDown(row: Shown): void {
  if (!mayChange) return
  void tree.unfold(row)
  adding.value = row.ref
}

/** Follows a link as the router does. One listener bears all rows, for thousands of them pass while one scrolls. */
function followLink(event: MouseEvent): void {
  const link = around(event, 'a')
  const isPlain =
    event.button === 0 && !(event.ctrlKey || event.metaKey || event.shiftKey || event.altKey)
  if (!link || !isPlain) return
  event.preventDefault()
  void router.push(link.getAttribute('href') ?? '')
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
  const line = certain(around(event, '[role=row]'), 'row of the tree')
  const { top, height } = line.getBoundingClientRect()
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
    @click="followLink"
  >
    <div class="head line" role="row">
      <span role="columnheader">Ref</span><span role="columnheader">Title</span
      ><span role="columnheader">Status</span><span role="columnheader" class="num">Done below</span
      ><span role="columnheader" class="num">Of estimate</span
      ><span role="columnheader">Assignee</span>
    </div>
    <div class="rows" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="{ index, start, line } in visible" :key="index % slots">
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
        <TreeBranch
          v-else
          :index="index"
          :start="start"
          :row="line.row"
          :selected="index === at"
          :unfolded="tree.isOpen(line.row.ref)"
          :may-change="mayChange"
          :is-dragged="dragged?.ref === line.row.ref"
          :target="target?.ref === line.row.ref ? target.place : undefined"
          @select="select(index)"
          @turn="tree.isOpen(line.row.ref) ? tree.fold(line.row) : tree.unfold(line.row)"
          @drag="drag($event, line.row)"
          @over="over($event, line.row)"
          @release="drop(line.row)"
          @end="endDrag"
        />
      </template>
    </div>
  </div>
</template>

<style scoped>
.tree {
  --branch-columns: 86px minmax(220px, 1fr) 132px 110px 130px 112px;
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
  grid-template-columns: var(--branch-columns);
  align-items: center;
  height: 32px;
  border-bottom: 1px solid var(--hair);
}
.line > span {
  padding: 0 8px;
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
.rows .adding {
  position: absolute;
  inset: 0 0 auto;
  display: flex;
}
.whole {
  flex: 1;
  min-width: 0;
}
</style>
