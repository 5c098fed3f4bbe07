import { inDefinedOrder, keyOf } from './groups.ts'
import { events, onePass, stepByStep } from './overTime.ts'
import { fieldOf, groupProperty, source, stepsIn } from './source.ts'
import { type Evaluate, type MeasureAnswer, stateFigures } from '@bluestem/core/dashboards'
import { changingWith } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { throughGate } from '../sql/locks.ts'
import type { Course, FigureQuestion, FigureValues, Values } from './figureQuestion.ts'
import { present } from './present.ts'

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
  const question: FigureQuestion = { queryContext, condition, source: { figure, field }, by }
  // A course is a long question, so it passes the gate; a figure of the present does not.
  const computed = given.over
    ? await throughGate(database, async () => await valuesOf(database, question, { ends, steps }))
    : await valuesOf(database, question, undefined)
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

async function valuesOf(
  database: Sequelize,
  question: FigureQuestion,
  course: Course | undefined,
): Promise<FigureValues> {
  if (!stateFigures.includes(question.source.figure.kind))
    return await events(database, question, course)
  return course ? await overTime(database, question, course) : await present(database, question)
}

/** A figure of states at the end of each step. */
async function overTime(
  database: Sequelize,
  question: FigureQuestion,
  { ends }: Course,
): Promise<FigureValues> {
  const past = ends.filter((end) => end !== null)
  if (past.length === 0) return { method: 'course', groups: new Map(), total: ends.map(() => null) }
  const values = isOnePass(question)
    ? await onePass(database, question, past)
    : await stepByStep(database, question, past)
  const pad = (row: Values): Values =>
    ends.map((end, index) => (end === null ? null : (row[index] ?? null)))
  return {
    ...values,
    groups: new Map([...values.groups].map(([key, row]) => [key, pad(row)])),
    total: pad(values.total),
  }
}

/** Whether a figure can be added up from the states that begin and end, because nothing else changes it. */
function isOnePass({ condition, source, by }: FigureQuestion): boolean {
  const kinds = [
    ...changingWith(condition),
    ...(by ? by.changesWith : []),
    ...(source.field?.changesWith ?? []),
  ]
  return (
    kinds.every((kind) => ['own', 'below', 'asker'].includes(kind)) &&
    ['count', 'sum', 'mean'].includes(source.figure.kind)
  )
}
