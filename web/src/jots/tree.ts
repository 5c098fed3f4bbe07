import type { JotAnswer } from '@bluestem/core/jots'

/** A jot with how deep it stands. */
export interface JotRow extends JotAnswer {
  readonly depth: number
}

/** Jots in the order of a tree: each with what stands below it at once after it. */
export function treeOf(jots: readonly JotAnswer[]): JotRow[] {
  const below = new Map<string | null, JotAnswer[]>()
  for (const jot of jots) below.set(jot.above, [...(below.get(jot.above) ?? []), jot])
  const rowsBelow = (above: string | null, depth: number): JotRow[] =>
    (below.get(above) ?? []).flatMap((jot) => [{ ...jot, depth }, ...rowsBelow(jot.id, depth + 1)])
  return rowsBelow(null, 0)
}
