import { elementAt, firstIn } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import type { QueryContext } from '../sql/statement.ts'
import type { Condition, Property } from '@bluestem/core/queries'
import { courseStatement, eventsStatement, type FigureSource, meanParts } from '../sql/measure.ts'
import { type Instant, startOfDay } from '@bluestem/core/calendar'
import { type Computed, present, statistic, type Values } from './evaluate.ts'
import { sumOf } from './groups.ts'
import { queryRows } from '../sql/run.ts'
import { type Bucket, runningSums } from '@bluestem/core/dashboards'

/** A mean is a sum and a count, each a course of its own. */
async function meanOverTime(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly Instant[],
): Promise<Computed> {
  const parts = await Promise.all(
    meanParts(what).map((part) => onePass(database, queryContext, condition, part, by, ends)),
  )
  const sums = elementAt(parts, 0)
  const counts = elementAt(parts, 1)
  const over = (sum: Values, counted: Values): Values =>
    sum.map((value, index) => (value !== null && counted[index] ? value / counted[index] : null))
  const groups = [...sums.groups].map(
    ([key, values]) => [key, over(values, counts.groups.get(key) ?? [])] as const,
  )
  return {
    method: 'course',
    total: over(sums.total, counts.total),
    groups: new Map(groups),
  }
}

/** The single pass over history. */
export async function onePass(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly Instant[],
): Promise<Computed> {
  if (what.figure.kind === 'mean')
    return await meanOverTime(database, queryContext, condition, what, by, ends)
  const found = await queryRows<{
    whole: boolean
    bucket: number
    key: string | null
    change: string
    items: number
  }>(
    database,
    courseStatement(
      queryContext,
      condition,
      what,
      by,
      ends.map((end) => new Date(end)),
    ),
  )
  const empty = '\u0000'
  const buckets = (whole: boolean): Bucket[] =>
    found
      .filter((row) => row.whole === whole)
      .map((row) => ({ bucket: row.bucket, key: row.key ?? empty, change: row.change }))
  const all = runningSums(buckets(false), ends.length)
  // A group is there where it held something at the end of a step, whatever its figure came to.
  const held = runningSums(
    found
      .filter((row) => !row.whole)
      .map((row) => ({ bucket: row.bucket, key: row.key ?? empty, change: row.items })),
    ends.length,
  )
  const groups = new Map([...all].filter(([key]) => held.get(key)?.some((items) => items > 0)))
  const apart = !by || by.type.kind === 'array'
  const total = apart
    ? (runningSums(buckets(true), ends.length).get(empty) ?? ends.map(() => 0))
    : ends.map((_, index) => sumOf([...all.values()].map((row) => elementAt(row, index))))
  return {
    method: 'course',
    total,
    groups: new Map([...groups].map(([key, values]) => [key === empty ? null : key, values])),
  }
}

/** What one pass cannot tell is asked as of each step's end: exact, and slower. */
export async function stepByStep(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly Instant[],
): Promise<Computed> {
  const groups = new Map<string | null, Values>()
  const total: Values = []
  for (const [index, end] of ends.entries()) {
    const step = await present(
      database,
      { ...queryContext, asOf: true, moment: end - 1 },
      condition,
      what,
      by,
    )
    total.push(step.total[0] ?? null)
    for (const [key, values] of step.groups) {
      const row =
        groups.get(key) ?? ends.map(() => (['count', 'sum'].includes(what.figure.kind) ? 0 : null))
      row[index] = values[0] ?? null
      groups.set(key, row)
    }
  }
  return { method: 'steps', groups, total }
}

const dayInMilliseconds = 86_400_000

/** Figures of entries into done: how many, or how long they took, in days. */
export async function events(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  { figure }: FigureSource,
  by: Property | undefined,
  ends: readonly (Instant | null)[] | undefined,
  steps: readonly string[],
): Promise<Computed> {
  const { zone } = queryContext.world
  const starts = ends ? steps.map((step) => startOfDay(step, zone)) : [0]
  const last =
    (ends ?? [queryContext.moment + 1]).filter((end) => end !== null).at(-1) ??
    queryContext.moment + 1
  const found = await queryRows<{
    id: number
    key: string | null
    done_at: Date
    first_active_at: Date | null
    created_at: Date
  }>(
    database,
    eventsStatement(queryContext, condition, by, new Date(firstIn(starts)), new Date(last)),
  )
  const stepOf = (at: number): number => starts.findLastIndex((start) => start <= at)
  const figureOf = (events: typeof found): Values =>
    starts.map((_, index) => {
      if (ends?.[index] === null) return null
      const inside = events.filter((event) => stepOf(event.done_at.getTime()) === index)
      if (figure.kind === 'throughput') return inside.length
      const days = inside
        .flatMap((event) => {
          const begin = figure.kind === 'cycle_time' ? event.first_active_at : event.created_at
          return begin ? [(event.done_at.getTime() - begin.getTime()) / dayInMilliseconds] : []
        })
        .sort((a, b) => a - b)
      return statistic(days, figure)
    })
  const items = [...new Map(found.map((event) => [event.id, event])).values()]
  const keys = by ? [...new Set(found.map((event) => event.key))] : []
  return {
    method: 'events',
    total: figureOf(items),
    groups: new Map(keys.map((key) => [key, figureOf(found.filter((event) => event.key === key))])),
  }
}
