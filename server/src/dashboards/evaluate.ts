import { inDefinedOrder, keyOf } from './groups.ts'
import { events, onePass, stepByStep } from './overTime.ts'
import { fieldOf, groupProperty, source, stepsIn } from './source.ts'
import type { Instant } from '@bluestem/core/calendar'
import {
  type Evaluate,
  type Figure,
  mean,
  type MeasureAnswer,
  percentile,
  stateFigures,
} from '@bluestem/core/dashboards'
import { changingWith, type Condition, type Property } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { queryRows } from '../sql/run.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { throughGate } from '../sql/locks.ts'
import { type FigureSource, figureStatement } from '../sql/measure.ts'
import type { QueryContext } from '../sql/statement.ts'

export type Values = (number | null)[]
export interface Computed {
  readonly groups: Map<string | null, Values>
  readonly total: Values
  readonly method: MeasureAnswer['method']
}

/** Evaluates a measure, or a figure over a filter: what everything a dashboard shows comes from. */
export async function evaluate(
  database: Sequelize,
  ask: ActorContext,
  given: Evaluate,
): Promise<MeasureAnswer> {
  const { figure, unit, condition, kept } = await source(database, ask, given)
  const field = fieldOf(ask, figure)
  const by = given.by?.[0] === undefined ? undefined : groupProperty(ask, given.by[0])
  const queryContext = queryContextOf(ask.world, ask.person, ask.now, given.asOf)
  const { steps, ends } = stepsIn(ask, queryContext, given)
  const what: FigureSource = { figure, field }
  const computed = await compute(
    database,
    queryContext,
    condition,
    what,
    by,
    given.over ? ends : undefined,
    steps,
  )
  const groups = [...computed.groups].map(([raw, values]) => ({
    key: [keyOf(ask, by, raw)],
    values: round(values),
  }))
  return {
    unit,
    by: given.by ?? [],
    steps,
    method: computed.method,
    filter: kept,
    total: round(computed.total),
    groups: by ? await inDefinedOrder(database, ask, by, groups) : [],
  }
}

/** Sums of decimals come back as floating point; their last digits are noise. */
const round = (values: Values): Values =>
  values.map((value) => (value === null ? null : Number(value.toPrecision(12))))

/** A course is a long question, so it passes the gate; a figure of the present is not. */
const compute = async (...question: Parameters<typeof figureOver>): Promise<Computed> =>
  question[5]
    ? await throughGate(question[0], async () => await figureOver(...question))
    : await figureOver(...question)

async function figureOver(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly (Instant | null)[] | undefined,
  steps: readonly string[],
): Promise<Computed> {
  if (!stateFigures.includes(what.figure.kind))
    return await events(database, queryContext, condition, what, by, ends, steps)
  if (!ends) return await present(database, queryContext, condition, what, by)
  const kinds = [
    ...changingWith(condition),
    ...(by ? by.changesWith : []),
    ...(what.field?.changesWith ?? []),
  ]
  const inOnePass = kinds.every((kind) => ['own', 'below', 'asker'].includes(kind))
  const past = ends.filter((end) => end !== null)
  if (past.length === 0) return { method: 'course', groups: new Map(), total: ends.map(() => null) }
  const summable = ['count', 'sum', 'mean'].includes(what.figure.kind)
  const course =
    inOnePass && summable
      ? await onePass(database, queryContext, condition, what, by, past)
      : await stepByStep(database, queryContext, condition, what, by, past)
  const pad = (values: Values): Values =>
    ends.map((end, index) => (end === null ? null : (values[index] ?? null)))
  return {
    ...course,
    groups: new Map([...course.groups].map(([key, values]) => [key, pad(values)])),
    total: pad(course.total),
  }
}

export async function present(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
): Promise<Computed> {
  const found = await queryRows<{ whole: boolean; key: string | null; value: number | null }>(
    database,
    figureStatement(queryContext, condition, what, by),
  )
  return {
    method: queryContext.asOf ? 'as of' : 'present',
    groups: new Map(found.filter((row) => !row.whole).map((row) => [row.key, [row.value]])),
    total: [found.find((row) => row.whole)?.value ?? null],
  }
}

export function statistic(
  ascending: readonly number[],
  { stat = 'median', p = 85 }: Figure,
): number | null {
  switch (stat) {
    case 'mean':
      return mean(ascending)
    case 'median':
      return percentile(ascending, 50)
    case 'percentile':
      return percentile(ascending, p)
    case 'least':
      return ascending[0] ?? null
    case 'greatest':
      return ascending.at(-1) ?? null
  }
}
