import { elementAt, firstIn } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import { courseStatement, eventsStatement, meanParts } from '../sql/measure.ts'
import { type Instant, startOfDay } from '@bluestem/core/calendar'
import type { Course, FigureQuestion, FigureValues, Values } from './figureQuestion.ts'
import { present } from './present.ts'
import { sumOf } from './groups.ts'
import { queryRows } from '../sql/run.ts'
import { type Bucket, runningSums, statisticOf } from '@bluestem/core/dashboards'

/** A mean is a sum and a count, each a course of its own. */
async function meanOverTime(
  database: Sequelize,
  question: FigureQuestion,
  ends: readonly Instant[],
): Promise<FigureValues> {
  const parts = await Promise.all(
    meanParts(question.source).map(
      async (source) => await onePass(database, { ...question, source }, ends),
    ),
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
  question: FigureQuestion,
  ends: readonly Instant[],
): Promise<FigureValues> {
  const { queryContext, condition, source, by } = question
  if (source.figure.kind === 'mean') return await meanOverTime(database, question, ends)
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
      source,
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
  question: FigureQuestion,
  ends: readonly Instant[],
): Promise<FigureValues> {
  const groups = new Map<string | null, Values>()
  const total: Values = []
  const none = ['count', 'sum'].includes(question.source.figure.kind) ? 0 : null
  for (const [index, end] of ends.entries()) {
    const queryContext = { ...question.queryContext, asOf: true, moment: end - 1 }
    const step = await present(database, { ...question, queryContext })
    total.push(step.total[0] ?? null)
    for (const [key, values] of step.groups) {
      const row = groups.get(key) ?? ends.map(() => none)
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
  { queryContext, condition, source: { figure }, by }: FigureQuestion,
  course: Course | undefined,
): Promise<FigureValues> {
  const { zone } = queryContext.world
  const starts = course ? course.steps.map((step) => startOfDay(step, zone)) : [0]
  const ended = course?.ends.filter((end) => end !== null).at(-1)
  const last = ended ?? queryContext.moment + 1
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
      if (course?.ends[index] === null) return null
      const inside = events.filter((event) => stepOf(event.done_at.getTime()) === index)
      if (figure.kind === 'throughput') return inside.length
      const days = inside
        .flatMap((event) => {
          const begin = figure.kind === 'cycle_time' ? event.first_active_at : event.created_at
          return begin ? [(event.done_at.getTime() - begin.getTime()) / dayInMilliseconds] : []
        })
        .sort((a, b) => a - b)
      return statisticOf(days, figure)
    })
  const items = [...new Map(found.map((event) => [event.id, event])).values()]
  const keys = by ? [...new Set(found.map((event) => event.key))] : []
  return {
    method: 'events',
    total: figureOf(items),
    groups: new Map(keys.map((key) => [key, figureOf(found.filter((event) => event.key === key))])),
  }
}
