import { elementAt, entryOf } from '@bluestem/core/known'
import { startOfDay } from '@bluestem/core/calendar'
import { definitions } from './definitions.ts'
import { type Act, day, type Life, zone } from './life.ts'

/** An iteration or a release of the demo: its first day, and the moments it is started and finished at. */
export interface DemoSpan {
  readonly id: string
  readonly start: string
  readonly startedAt: number
  readonly finishedAt: number
}

/** How lives are planned into the spans of one owner. */
export interface Planning {
  readonly property: 'iteration' | 'release'
  readonly spans: readonly DemoSpan[]
  /** who plans */
  readonly by: number
  /** how many days ahead of now some of what is not begun yet is planned */
  readonly ahead: number
  /** whether work is planned into the span it begins in, or into the one it is meant to be done in */
  readonly anchor: 'beginning' | 'end'
}

/** In how many spans an item is taken along before it goes back to the backlog. */
const mostSpans = 3

const phaseOf = (act: Act): string | undefined => {
  const status = act.edit?.['status']
  return typeof status === 'string' ? entryOf(definitions.statuses, status).phase : undefined
}

/** When work on a life begins, and when it ends; what is not begun yet is planned ahead now and then. */
function spanOf(
  { acts, number }: Life,
  now: Date,
  ahead: number,
): { readonly begins?: number; readonly ends: number } {
  const momentOf = (...phases: readonly string[]): number | undefined =>
    acts.find((act) => phases.includes(phaseOf(act) ?? ''))?.at
  const over = momentOf('done', 'dropped')
  const isWaiting = over === undefined && number % 4 === 0
  const begins = momentOf('active') ?? (isWaiting ? now.getTime() + ahead * day : undefined)
  const ends = Math.min(over ?? Infinity, now.getTime())
  return { ends, ...(begins === undefined ? {} : { begins }) }
}

/** The place of the span that something is planned into first: every third is promised one span too early. */
function firstOf(
  { number }: Life,
  { spans, anchor }: Planning,
  begins: number,
  ends: number,
): number {
  const at = anchor === 'end' ? Math.max(begins, ends) : begins
  const place = spans.findLastIndex(({ start }) => startOfDay(start, zone) <= at)
  return anchor === 'end' && number % 3 === 0 ? Math.max(place - 1, Math.min(place, 0)) : place
}

/** When something is planned: before the span starts, or as work on it begins, which is late. */
function takenIn({ number, made }: Life, { startedAt }: DemoSpan, begins: number): number {
  const isLate = number % 5 === 0 || made.at > startedAt - day
  return isLate ? Math.max(made.at + 60_000, begins - 5 * 60_000) : startedAt - 20 * 3_600_000
}

/**
 * A life with the spans it was planned into: most are committed before the start of the one in which work on them begins, every fifth
 * comes in late, and what is open at the end goes into the next.
 */
export function plannedInto(life: Life, now: Date, planned: Planning): Life {
  const { property, spans, by, ahead } = planned
  const { begins, ends } = spanOf(life, now, ahead)
  if (begins === undefined) return life
  const first = firstOf(life, planned, begins, ends)
  if (first < 0) return life
  const planning = (at: number, to: string | null): Act => ({ at, by, edit: { [property]: to } })
  const passed = spans.slice(first, first + mostSpans).filter(({ finishedAt }) => finishedAt < ends)
  const acts = [
    planning(takenIn(life, elementAt(spans, first), begins), elementAt(spans, first).id),
    ...passed.map(({ finishedAt }, index) => {
      const next = index + 1 === mostSpans ? undefined : spans[first + index + 1]
      return planning(finishedAt, next?.id ?? null)
    }),
  ]
  return { ...life, acts: [...life.acts, ...acts].toSorted((a, b) => a.at - b.at) }
}
