<script setup lang="ts">
import { halves } from '@bluestem/core/known'
import { computed } from 'vue'
import dagre from '@dagrejs/dagre'
import type { Flow, Status } from '@bluestem/core/definitions'

/** A flow as a drawing: statuses as boxes, moves as arrows; what the draft allows or forbids stands out. The grid above says the same in words. */
const { flow, before, statuses } = defineProps<{
  flow: Flow
  before: Flow
  statuses: Readonly<Record<string, Status>>
}>()

interface Arrow {
  readonly key: string
  readonly path: string
  readonly kind: 'both' | 'allows' | 'forbids' | 'plain'
}

const drawing = computed(() => {
  const graph = new dagre.graphlib.Graph()
  graph.setGraph({ rankdir: 'LR', nodesep: 26, ranksep: 74, marginx: 6, marginy: 8 })
  graph.setDefaultEdgeLabel(() => ({}))
  const all = [...new Set([...flow.statuses, ...before.statuses])]
  for (const id of all)
    graph.setNode(id, {
      width: Math.max(70, (statuses[id]?.title ?? id).length * 7.4 + 44),
      height: 28,
    })
  const moves = [...new Set([...flow.moves, ...before.moves])]
  // A move and its way back are one line with two heads.
  const lines = moves.filter((move) => {
    const [from = '', to = ''] = move.split(':')
    return !moves.includes(`${to}:${from}`) || from < to
  })
  const forward = (move: string): [string, string] => {
    const [from, to] = halves(move, ':')
    const back = moves.includes(`${to}:${from}`) && all.indexOf(to) < all.indexOf(from)
    return back ? [to, from] : [from, to]
  }
  for (const move of lines) graph.setEdge(...forward(move))
  dagre.layout(graph)
  const kindOf = (move: string): Arrow['kind'] => {
    const [from, to] = move.split(':')
    const two = [move, `${to}:${from}`].filter((entry) => moves.includes(entry))
    if (two.some((entry) => flow.moves.has(entry) && !before.moves.has(entry))) return 'allows'
    if (two.some((entry) => !flow.moves.has(entry) && before.moves.has(entry))) return 'forbids'
    return two.length === 2 ? 'both' : 'plain'
  }
  const arrows = lines.map((move): Arrow => {
    const [from, to] = forward(move)
    // The library types what it lays out as anything; these are the places that it documents.
    const { points } = graph.edge(from, to) as { points: readonly { x: number; y: number }[] }
    return {
      key: move,
      kind: kindOf(move),
      path: points
        .map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`)
        .join(' '),
    }
  })
  const boxes = all.map((id) => ({
    id,
    title: statuses[id]?.title ?? id,
    phase: statuses[id]?.phase ?? 'idle',
    gone: !flow.statuses.includes(id),
    // As above.
    ...(graph.node(id) as { x: number; y: number; width: number; height: number }),
  }))
  // As above.
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number }
  return { arrows, boxes, width, height }
})
</script>

<template>
  <div class="frame">
    <svg
      :viewBox="`0 0 ${drawing.width} ${drawing.height}`"
      :style="{ width: `${drawing.width}px` }"
      role="img"
      :aria-label="`Drawing of the flow: ${drawing.boxes.map((box) => box.title).join(', ')}`"
    >
      <defs>
        <marker
          v-for="kind in ['plain', 'allows', 'forbids']"
          :id="`head-${kind}`"
          :key="kind"
          viewBox="0 0 8 8"
          refX="7"
          refY="4"
          markerWidth="7"
          markerHeight="7"
          orient="auto-start-reverse"
        >
          <path d="M1 1 7 4 1 7" fill="none" :class="kind" />
        </marker>
      </defs>
      <path
        v-for="arrow in drawing.arrows"
        :key="arrow.key"
        :d="arrow.path"
        fill="none"
        :class="arrow.kind"
        :marker-end="`url(#head-${arrow.kind === 'both' ? 'plain' : arrow.kind})`"
        :marker-start="arrow.kind === 'both' ? 'url(#head-plain)' : undefined"
      />
      <g v-for="box in drawing.boxes" :key="box.id" :class="{ gone: box.gone }">
        <rect
          :x="box.x - box.width / 2"
          :y="box.y - box.height / 2"
          :width="box.width"
          :height="box.height"
          rx="2"
        />
        <g
          :class="['mark', box.phase]"
          :transform="`translate(${box.x - box.width / 2 + 9} ${box.y - 4.5})`"
        >
          <rect width="9" height="9" />
          <path v-if="box.phase === 'active'" d="M0 9 9 0V9Z" />
          <path v-if="box.phase === 'dropped'" d="M0 9 9 0" />
        </g>
        <text :x="box.x + 8" :y="box.y + 4.5" text-anchor="middle">{{ box.title }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
  margin: 4px 0 20px;
}
svg {
  display: block;
  max-width: 100%;
}
path {
  stroke: var(--ink);
  stroke-width: 1;
}
path.allows {
  stroke: var(--leaf);
  stroke-width: 2;
}
path.forbids {
  stroke: var(--russet);
  stroke-dasharray: 5 4;
}
rect {
  fill: var(--sheet);
  stroke: var(--rule);
}
/* The mark of a phase, as it stands beside a status everywhere. */
.mark rect,
.mark path {
  stroke: var(--ink);
  fill: none;
}
.mark.done rect,
.mark.active path {
  fill: var(--ink);
}
text {
  font: 13px var(--sans);
  fill: var(--ink);
}
.gone rect {
  stroke-dasharray: 4 3;
}
.gone text {
  fill: var(--quiet);
  text-decoration: line-through;
}
</style>
