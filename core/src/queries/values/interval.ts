import type { End, Interval, Result } from './result.ts'
import { endOfDay, instantOf, startOfDay } from '../../calendar/day.ts'
import type { TemporalOp } from '../tree/tree.ts'

export type Side = 'start' | 'end'
/** Which end of a is compared how with which end of b. */
export interface EndComparison {
  readonly a: Side
  readonly op: '<' | '>' | '='
  readonly b: Side
}

export interface Relation {
  readonly join: 'and' | 'or'
  readonly comparisons: readonly EndComparison[]
  readonly negated?: true
}

type Comparison = `${Side} ${EndComparison['op']} ${Side}`

const sideOf = (word: string | undefined): Side => (word === 'start' ? 'start' : 'end')

const compare = (text: Comparison): EndComparison => {
  const [a, op, b] = text.split(' ')
  return { a: sideOf(a), op: op === '<' || op === '>' ? op : '=', b: sideOf(b) }
}

const all = (...texts: Comparison[]): Relation => ({ join: 'and', comparisons: texts.map(compare) })

/**
 * The end-point formulas of the temporal operators (OGC 21-065r2, after Allen 1983), read as “a OP b”.
 * Evaluator and SQL are both made from this table.
 */
export const relations: Record<TemporalOp, Relation> = {
  t_after: all('start > end'),
  t_before: all('end < start'),
  t_contains: all('start < start', 'end > end'),
  t_disjoint: { join: 'or', comparisons: [compare('end < start'), compare('start > end')] },
  t_during: all('start > start', 'end < end'),
  t_equals: all('start = start', 'end = end'),
  t_finishedBy: all('start < start', 'end = end'),
  t_finishes: all('start > start', 'end = end'),
  t_intersects: {
    join: 'or',
    comparisons: [compare('end < start'), compare('start > end')],
    negated: true,
  },
  t_meets: all('end = start'),
  t_metBy: all('start = end'),
  t_overlappedBy: all('start > start', 'start < end', 'end > end'),
  t_overlaps: all('start < start', 'end > start', 'end < end'),
  t_startedBy: all('start = start', 'end > end'),
  t_starts: all('start = start', 'end < end'),
}

/** Whether a temporal relation holds between two intervals. */
export function related(op: TemporalOp, a: Interval, b: Interval, zone: string): boolean {
  const { join, comparisons, negated } = relations[op]
  const hold = (endComparison: EndComparison): boolean => {
    const sign = compareEnds(
      a[endComparison.a],
      endComparison.a,
      b[endComparison.b],
      endComparison.b,
      zone,
    )
    return endComparison.op === '<' ? sign < 0 : endComparison.op === '>' ? sign > 0 : sign === 0
  }
  const result = join === 'and' ? comparisons.every(hold) : comparisons.some(hold)
  return negated ? !result : result
}

/** Days are compared as days; a day beside an instant is its first or last millisecond, as the side says. */
function compareEnds(a: End, aSide: Side, b: End, bSide: Side, zone: string): number {
  if (a.kind === 'day' && b.kind === 'day') return a.day < b.day ? -1 : a.day > b.day ? 1 : 0
  const [x, y] = [endInstant(a, aSide, zone), endInstant(b, bSide, zone)]
  return x === y ? 0 : x < y ? -1 : 1
}

/** The instant an end stands for: open ends are infinite, a day begins or ends as the side says. */
export function endInstant(end: End, side: Side, zone: string): number {
  if (end.kind === 'open') return side === 'start' ? -Infinity : Infinity
  if (end.kind === 'instant') return end.instant
  return side === 'start' ? startOfDay(end.day, zone) : endOfDay(end.day, zone)
}

/** Reads an end as CQL2 JSON writes it: a day, an instant or `..`. */
export const endOf = (text: string): End =>
  text === '..'
    ? { kind: 'open' }
    : text.length === 10
      ? { kind: 'day', day: text }
      : { kind: 'instant', instant: instantOf(text) }

/** An interval as instants, its end not included: ends hold their whole millisecond. */
export const instants = (interval: Interval, zone: string): { start: number; end: number } => ({
  start: endInstant(interval.start, 'start', zone),
  end: endInstant(interval.end, 'end', zone) + 1,
})

/** The interval that a value is known to be. @throws Error where it is none */
export function asInterval(value: Result): Interval {
  if (typeof value === 'object' && value !== null && 'start' in value) return value
  throw new Error('This value is no interval.')
}
