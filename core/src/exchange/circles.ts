import { valueFor } from '../known/index.ts'

/** From one item to another. */
export interface Edge {
  readonly from: string
  readonly to: string
}

const group = (edges: readonly Edge[], by: 'from' | 'to'): Map<string, Edge[]> => {
  const groups = new Map<string, Edge[]>()
  for (const edge of edges) {
    const known = groups.get(edge[by])
    if (known) known.push(edge)
    else groups.set(edge[by], [edge])
  }
  return groups
}

/** What is left of edges once all is taken away, again and again, to which nothing leads: circles and what lies behind them. (Kahn, *Topological sorting of large networks*, 1962.) */
function notSorted(edges: readonly Edge[]): Edge[] {
  const [leaving, arriving] = [group(edges, 'from'), group(edges, 'to')]
  const counts = new Map([...arriving].map(([item, all]) => [item, all.length]))
  const free = [...leaving.keys()].filter((item) => !counts.has(item))
  const sorted = new Set(free)
  for (let item = free.pop(); item !== undefined; item = free.pop())
    for (const { to } of leaving.get(item) ?? []) {
      const count = valueFor(counts, to) - 1
      counts.set(to, count)
      if (count > 0) continue
      sorted.add(to)
      free.push(to)
    }
  return edges.filter(({ from }) => !sorted.has(from))
}

const turned = (edges: readonly Edge[]): Edge[] =>
  edges.map(({ from, to }) => ({ from: to, to: from }))

/** Whether edges lead from one item to another. */
function leads(ways: ReadonlyMap<string, Edge[]>, from: string, to: string): boolean {
  const met = new Set([from])
  const ahead = [from]
  for (let item = ahead.pop(); item !== undefined; item = ahead.pop()) {
    if (item === to) return true
    for (const { to: next } of ways.get(item) ?? [])
      if (!met.has(next)) {
        met.add(next)
        ahead.push(next)
      }
  }
  return false
}

/**
 * Which of the edges that are added close a circle, where each is added after those before it and one that closes a circle is left out.
 *
 * @param there edges that are there already
 */
export function closing<Added extends Edge>(
  there: readonly Edge[],
  added: readonly Added[],
): ReadonlySet<Added> {
  // Most files close none. Only where a circle can be, edges are looked at one by one.
  const behind = notSorted([...there, ...added])
  const within = new Set(notSorted(turned(behind)).map(({ from, to }) => `${to} ${from}`))
  const isWithin = ({ from, to }: Edge): boolean => within.has(`${from} ${to}`)
  const ways = group(there.filter(isWithin), 'from')
  const closed = new Set<Added>()
  for (const edge of added.filter(isWithin))
    if (leads(ways, edge.to, edge.from)) closed.add(edge)
    else ways.set(edge.from, [...(ways.get(edge.from) ?? []), edge])
  return closed
}
