import {
  addDays,
  countSteps,
  dayOf,
  type Instant,
  isDay,
  periodAround,
  startOfDay,
  stepsOf,
} from '@bluestem/core/calendar'
import {
  type Bucket,
  type Evaluate,
  fieldFigures,
  type Figure,
  type Key,
  mean,
  type MeasureAnswer,
  type MeasureContent,
  percentile,
  runningSums,
  stateFigures,
} from '@bluestem/core/dashboards'
import { changingWith, type Condition, Decimal, type Property } from '@bluestem/core/queries'
import type { QueryContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { invalid } from '../problems/problem.ts'
import { read } from '../saved/service.ts'
import { ask as asked, askingOf } from '../queries/answers.ts'
import { propertiesOf } from '../queries/properties.ts'
import { readFilter, readKept } from '../queries/filter.ts'
import { throughGate } from '../database/gate.ts'
import {
  courseStatement,
  eventsStatement,
  type FigureSource,
  figureStatement,
  meanParts,
} from '../sql/measure.ts'
import type { Asking } from '../sql/statement.ts'
import { heldOf, shown } from '../work/row.ts'

type Values = (number | null)[]
interface Computed {
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
  const asking = askingOf(ask.world, ask.person, ask.now, given.asOf)
  const { steps, ends } = stepsIn(ask, asking, given)
  const what: FigureSource = { figure, field }
  const computed = await compute(
    database,
    asking,
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

async function source(
  database: Sequelize,
  ask: ActorContext,
  given: Evaluate,
): Promise<{ figure: Figure; unit: string; condition: Condition; kept: unknown }> {
  if (given.measure !== undefined) {
    const measure = await read<MeasureContent>(database, ask, 'measure', given.measure)
    const query = await read<QueryContent>(database, ask, 'query', measure.content.query)
    const { condition, kept } = readKept(ask.world, query.content.filter)
    return { figure: measure.content.figure, unit: measure.content.unit, condition, kept }
  }
  if (!given.figure)
    throw invalid([
      {
        pointer: '/figure',
        message: 'Say which measure, or give a figure and a filter.',
        expected: 'measure, or figure and filter',
      },
    ])
  const { condition, kept } = given.kept
    ? readKept(ask.world, given.filter ?? true)
    : readFilter(ask.world, given.filter, given['filter-lang'])
  return {
    figure: given.figure,
    unit: given.figure.kind === 'count' || given.figure.kind === 'throughput' ? 'items' : '',
    condition,
    kept,
  }
}

function fieldOf(ask: ActorContext, figure: Figure): Property | undefined {
  if (!fieldFigures.includes(figure.kind)) return undefined
  const [property] = propertiesOf(ask.world, [figure.field ?? ''], '/figure/field')
  if (property!.type.kind !== 'number')
    throw invalid([
      {
        pointer: '/figure/field',
        message: `${property!.title} is no number, so it has no ${figure.kind}.`,
        expected: 'a number field',
        found: property!.handle,
      },
    ])
  return property
}

function groupProperty(ask: ActorContext, handle: string): Property {
  const [property] = propertiesOf(ask.world, [handle], '/by')
  if (
    property!.orderOnly ||
    property!.handle === 'title' ||
    property!.handle === 'description' ||
    property!.handle === 'ref'
  )
    throw invalid([
      {
        pointer: '/by',
        message: `Figures are not told by ${property!.title}.`,
        expected: 'a field with values that repeat',
      },
    ])
  return property!
}

/** Three years of days. */
const mostSteps = 1100

/** The steps of the span and the instant at which each ends; the running step ends now, later ones have not come yet. */
function stepsIn(
  ask: ActorContext,
  asking: Asking,
  given: Evaluate,
): { steps: string[]; ends: (Instant | null)[] } {
  const { zone } = ask.world
  if (!given.over) return { steps: [dayOf(asking.moment, zone)], ends: [asking.moment] }
  const { from, to, step } = given.over
  for (const [name, day] of Object.entries({ from, to }))
    if (!isDay(day))
      throw invalid([
        {
          pointer: `/over/${name}`,
          message: `“${day}” is no day of the calendar.`,
          expected: '2026-03-01',
          found: day,
        },
      ])
  if (to < from)
    throw invalid([
      {
        pointer: '/over/to',
        message: 'The span ends before it begins.',
        expected: `a day from ${from} on`,
        found: to,
      },
    ])
  const count = countSteps(step, { from, to })
  if (count > mostSteps)
    throw invalid([
      {
        pointer: '/over',
        message: `This span has ${count} steps; at most ${mostSteps} are computed.`,
        expected: 'a shorter span or a coarser step',
        found: `${count} steps`,
      },
    ])
  const steps = stepsOf(step, { from, to })
  const after = (index: number): string =>
    steps[index + 1] ?? addDays(periodAround(step, steps[index]!).to, 1)
  // States are asked about just before their end; a state that began at this very millisecond counts.
  const present = asking.moment + 1
  const ends = steps.map((first, index) =>
    startOfDay(first, zone) > asking.moment
      ? null
      : Math.min(startOfDay(after(index), zone), present),
  )
  return { steps, ends }
}

/** A course is a long question, so it passes the gate; a figure of the present is not. */
const compute = async (...question: Parameters<typeof figureOver>): Promise<Computed> =>
  question[5]
    ? await throughGate(question[0], async () => await figureOver(...question))
    : await figureOver(...question)

async function figureOver(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly (Instant | null)[] | undefined,
  steps: readonly string[],
): Promise<Computed> {
  if (!stateFigures.includes(what.figure.kind))
    return await events(database, asking, condition, what, by, ends, steps)
  if (!ends) return await present(database, asking, condition, what, by)
  const kinds = [
    ...changingWith(condition),
    ...(by ? by.changesWith : []),
    ...(what.field?.changesWith ?? []),
  ]
  const own = kinds.every((kind) => kind === 'own' || kind === 'asker')
  const past = ends.filter((end) => end !== null)
  if (past.length === 0) return { method: 'course', groups: new Map(), total: ends.map(() => null) }
  const summable = ['count', 'sum', 'mean'].includes(what.figure.kind)
  const course =
    own && summable
      ? await onePass(database, asking, condition, what, by, past)
      : await stepByStep(database, asking, condition, what, by, past)
  const pad = (values: Values): Values =>
    ends.map((end, index) => (end === null ? null : (values[index] ?? null)))
  return {
    ...course,
    groups: new Map([...course.groups].map(([key, values]) => [key, pad(values)])),
    total: pad(course.total),
  }
}

async function present(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
): Promise<Computed> {
  const found = await asked<{ whole: boolean; key: string | null; value: number | null }>(
    database,
    figureStatement(asking, condition, what, by),
  )
  return {
    method: asking.asOf ? 'as of' : 'present',
    groups: new Map(found.filter((row) => !row.whole).map((row) => [row.key, [row.value]])),
    total: [found.find((row) => row.whole)?.value ?? null],
  }
}

/** The single pass over history; a mean is a sum and a count, each a course of its own. */
async function onePass(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  what: FigureSource,
  by: Property | undefined,
  ends: readonly Instant[],
): Promise<Computed> {
  if (what.figure.kind === 'mean') {
    const [sums, counts] = await Promise.all(
      meanParts(what).map(
        async (part) => await onePass(database, asking, condition, part, by, ends),
      ),
    )
    const over = (sum: Values, counted: Values): Values =>
      sum.map((value, index) => (counted[index] ? value! / counted[index] : null))
    return {
      method: 'course',
      total: over(sums!.total, counts!.total),
      groups: new Map(
        [...sums!.groups].map(([key, values]) => [
          key,
          over(values, counts!.groups.get(key) ?? []),
        ]),
      ),
    }
  }
  const found = await asked<{
    whole: boolean
    bucket: number
    key: string | null
    change: string
    items: number
  }>(
    database,
    courseStatement(
      asking,
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
    : ends.map((_, index) => sumOf([...all.values()].map((row) => row[index]!)))
  return {
    method: 'course',
    total,
    groups: new Map([...groups].map(([key, values]) => [key === empty ? null : key, values])),
  }
}

/** What one pass cannot tell is asked as of each step's end: exact, and slower. */
async function stepByStep(
  database: Sequelize,
  asking: Asking,
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
      { ...asking, asOf: true, moment: end - 1 },
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
async function events(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  { figure }: FigureSource,
  by: Property | undefined,
  ends: readonly (Instant | null)[] | undefined,
  steps: readonly string[],
): Promise<Computed> {
  const { zone } = asking.world
  const starts = ends ? steps.map((step) => startOfDay(step, zone)) : [0]
  const last =
    (ends ?? [asking.moment + 1]).filter((end) => end !== null).at(-1) ?? asking.moment + 1
  const found = await asked<{
    id: number
    key: string | null
    done_at: Date
    first_active_at: Date | null
    created_at: Date
  }>(database, eventsStatement(asking, condition, by, new Date(starts[0]!), new Date(last)))
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

function statistic(
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

function keyOf({ world }: ActorContext, by: Property | undefined, raw: string | null): Key | null {
  if (!by || raw === null) return null
  const { type } = by
  if (type.kind === 'choice' || type.kind === 'array') {
    if (type.domain === 'item') return { id: raw, title: raw }
    const id = world.numbers.identity(type.domain, Number(raw)) ?? raw
    return { id, title: world.vocabulary.choice(type.domain, id)?.title ?? id }
  }
  if (type.kind === 'boolean') return { id: raw, title: raw === 'true' ? 'yes' : 'no' }
  if (type.kind === 'timestamp') return { id: raw, title: raw }
  return { id: raw, title: String(shown(world, by, heldOf(world, by, raw), '')) }
}

type Group = MeasureAnswer['groups'][number]

/** Groups as sorting orders their key: texts by the database's collation, refs by code and number, all else by its place. */
async function inDefinedOrder(
  database: Sequelize,
  ask: ActorContext,
  by: Property,
  groups: readonly Group[],
): Promise<Group[]> {
  const id = (group: Group): string => group.key[0]?.id ?? ''
  if (by.type.kind === 'text') {
    const texts = await asked<{ one: string }>(database, {
      sql: 'SELECT one FROM unnest($1::text[]) AS one ORDER BY one COLLATE "und-x-icu", one COLLATE "C"',
      bind: [groups.filter((group) => group.key[0]).map(id)],
    })
    const places = new Map(texts.map((text, index) => [text.one, index]))
    return [...groups].sort(
      (a, b) =>
        (a.key[0] ? places.get(id(a))! : Infinity) - (b.key[0] ? places.get(id(b))! : Infinity),
    )
  }
  if (by.handle === 'parent')
    return [...groups].sort(
      (a, b) => Number(a.key[0] === null) - Number(b.key[0] === null) || byRef(id(a), id(b)),
    )
  return [...groups].sort((a, b) => place(ask, by, a.key[0]!) - place(ask, by, b.key[0]!))
}

function byRef(a: string, b: string): number {
  const [codeA = '', numberA] = a.split('/')
  const [codeB = '', numberB] = b.split('/')
  return codeA === codeB ? Number(numberA) - Number(numberB) : codeA < codeB ? -1 : 1
}

/** A sum of decimals as a number; of what comes back to nothing, nothing. */
const sumOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum.plus(value), new Decimal(0)).toNumber()

/** Where a group stands: choices in their defined order, numbers and days by value, the empty one last. */
function place({ world }: ActorContext, by: Property, key: Key | null): number {
  if (key === null) return Infinity
  const { type } = by
  if ((type.kind === 'choice' || type.kind === 'array') && type.domain !== 'item')
    return world.vocabulary.choices(type.domain).findIndex((choice) => choice.id === key.id)
  return type.kind === 'number' ? Number(key.id) : Date.parse(key.id) || 0
}
