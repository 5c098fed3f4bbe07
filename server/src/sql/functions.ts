import { certain, elementAt, entryOf, lastIn } from '@bluestem/core/known'
import { dayOf, type Days, type Period, periodAround } from '@bluestem/core/calendar'
import {
  type CheckedCall,
  functionEntry,
  type FunctionName,
  type Property,
  teamsNamed,
  teamsOf,
  type Value,
  literalIn,
  propertyIn,
} from '@bluestem/core/queries'
import type { ItemCompiler } from './itemCompiler.ts'
import { wordsSql } from './words.ts'
import { phaseNumber, propertySql } from './property.ts'
import type { QueryContext } from './statement.ts'
import { limitLeft } from './limit.ts'
import { past } from './past.ts'

export type IntervalFunction = 'day' | 'week' | 'month' | 'quarter' | 'year'
type FunctionSql = (compiler: ItemCompiler, call: CheckedCall) => string

/** Whether a function gives an interval; those are compiled by their ends, not as an expression. */
export const isInterval = (name: string): boolean => functionEntry(name).result.kind === 'interval'

/** The days of `week(k)` and its kin at the moment asked about. */
export function intervalOf(
  name: IntervalFunction,
  call: CheckedCall,
  queryContext: QueryContext,
): Days {
  return periodAround(
    name satisfies Period,
    dayOf(queryContext.moment, queryContext.world.zone),
    Number(literalIn(call, 0)),
  )
}

const knownDay: FunctionSql = (compiler, call) =>
  compiler.binds.bind(certain(compiler.dayKnown(call), `day of ${call.name}`), 'date')
const noExpression: FunctionSql = (_, call) => {
  throw new Error(`${call.name}() is an interval, which has no expression of its own`)
}

/** The SQL of each function of the core's table; the compiler sees to it that none is missing. */
const sqlOf: Record<FunctionName, FunctionSql> = {
  me: ({ binds, queryContext }) => binds.bind(queryContext.me, 'int'),
  my_teams: ({ binds, queryContext }) =>
    binds.bind(
      teamsOf(queryContext.world.vocabulary, askerOf(queryContext)).map(({ id }) =>
        queryContext.world.numbers.numberOf('team', id),
      ),
      'int[]',
    ),
  in_remit: inRemit,
  limit_left: (compiler, call) => limitLeft(compiler, literalIn(call, 0)),
  now: ({ binds, queryContext }) => binds.instant(queryContext.moment),
  today: knownDay,
  days_ago: knownDay,
  days_ahead: knownDay,
  day: noExpression,
  week: noExpression,
  month: noExpression,
  quarter: noExpression,
  year: noExpression,
  has_label: (compiler, call) =>
    `(${compiler.alias}.labels @> ARRAY[${compiler.value(lastIn(call.args))}])`,
  in_family: inFamily,
  words: (compiler, call) => wordsSql(compiler, literalIn(call, 0)),
  days_in: daysIn,
  changes_of: changesOf,
  first_into: (compiler, call) =>
    `(SELECT min(h.valid_from) FROM item_state h WHERE ${past(compiler)} AND h.phase = ${compiler.binds.bind(phaseNumber(literalIn(call, 0)), 'smallint')})`,
  last_into: lastInto,
}

/** How a function is written in SQL, by the name that a checked call has. */
export const functionSql = (name: string): FunctionSql => entryOf<FunctionSql>(sqlOf, name)

/** The identity of whoever asks. */
const askerOf = ({ world, me }: QueryContext): string | null =>
  world.people.find(({ number }) => number === me)?.id ?? null

/** Whether any of the named teams has the item in its remit; one that cannot tell counts as no. */
function inRemit(compiler: ItemCompiler, call: CheckedCall): string {
  const { queryContext } = compiler
  const teams = teamsNamed(queryContext.world.vocabulary, call.args, askerOf(queryContext))
  const remits = teams.flatMap(({ remit }) => (remit ? [compiler.condition(remit)] : []))
  if (remits.length === 0) return 'FALSE'
  return `(${remits.map((remit) => `coalesce(${remit}, FALSE)`).join(' OR ')})`
}

function inFamily({ queryContext, binds, alias }: ItemCompiler, call: CheckedCall): string {
  const family = literalIn(call, 0)
  const labels = queryContext.world.labels
    .filter((label) => label.family === family)
    .map((label) => label.number)
  return `(${alias}.labels && ${binds.bind(labels, 'int[]')})`
}

/** A property of a state of the past, read from the view of all states. */
const pastProperty = (compiler: ItemCompiler, property: Property): string =>
  property.handle === 'parent' ? 'h.parent_id' : pastSql(compiler, property)
const pastSql = (compiler: ItemCompiler, property: Property): string =>
  propertySql({ ...compiler.queryContext, asOf: true }, compiler.binds, property, 'h')

interface Span {
  readonly start: string
  readonly end: string
  readonly guard: string
}

/** The instants an interval argument stands for, its end not included; `guard` is true where an end is empty. */
function span(compiler: ItemCompiler, value: Value | undefined): Span {
  const open = { start: `'-infinity'::timestamptz`, end: `'infinity'::timestamptz`, guard: '' }
  if (!value) return open
  const { start, end } = compiler.ends(value)
  const edge = (intervalEnd: typeof start, side: 'start' | 'end'): string => {
    if (intervalEnd.kind === 'open') return side === 'start' ? open.start : open.end
    const zone = compiler.binds.bind(compiler.queryContext.world.zone, 'text')
    const day = (sql: string): string =>
      `((${sql} + ${side === 'start' ? 0 : 1})::timestamp AT TIME ZONE ${zone})`
    if (intervalEnd.kind === 'day') return day(compiler.binds.bind(intervalEnd.day, 'date'))
    const sql = compiler.value(intervalEnd.value)
    return intervalEnd.value.type.kind === 'date'
      ? day(sql)
      : side === 'start'
        ? sql
        : `(${sql} + interval '1 millisecond')`
  }
  const empties = [start, end].flatMap((intervalEnd) =>
    intervalEnd.kind === 'value' && intervalEnd.nullable
      ? [`${compiler.value(intervalEnd.value)} IS NULL`]
      : [],
  )
  return { start: edge(start, 'start'), end: edge(end, 'end'), guard: empties.join(' OR ') }
}

const guarded = (guard: string, sql: string): string =>
  guard ? `(CASE WHEN ${guard} THEN NULL ELSE ${sql} END)` : sql

function daysIn(compiler: ItemCompiler, call: CheckedCall): string {
  const { property } = propertyIn(call)
  const held = pastProperty(compiler, property)
  const wanted = compiler.value(elementAt(call.args, 1))
  const same =
    property.type.kind === 'array' ? `${held} @> ARRAY[${wanted}]` : `${held} = ${wanted}`
  const { start, end, guard } = span(compiler, call.args[2])
  const seconds = `extract(epoch FROM (least(h.valid_to, ${compiler.binds.instant(compiler.queryContext.moment)}, ${end}) - greatest(h.valid_from, ${start})))`
  return guarded(
    guard,
    `(SELECT coalesce(sum(greatest(${seconds}, 0)), 0) / 86400 FROM item_state h WHERE ${past(compiler)} AND ${same})`,
  )
}

function changesOf(compiler: ItemCompiler, call: CheckedCall): string {
  const value = pastProperty(compiler, propertyIn(call).property)
  const { start, end, guard } = span(compiler, call.args[1])
  const person = call.args[2]
    ? ` AND z.by_kind = 0 AND z.by_id = ${compiler.value(call.args[2])}`
    : ''
  return guarded(
    guard,
    `(SELECT count(*)::numeric FROM (SELECT h.valid_from, h.by_kind, h.by_id, ${value} AS held, lag(${value}) OVER w AS before, row_number() OVER w AS place
    FROM item_state h WHERE ${past(compiler)} WINDOW w AS (ORDER BY h.valid_from)) z
    WHERE z.place > 1 AND z.held IS DISTINCT FROM z.before AND z.by_kind <> 2 AND z.valid_from >= ${start} AND z.valid_from < ${end}${person})`,
  )
}

function lastInto(compiler: ItemCompiler, call: CheckedCall): string {
  const phase = compiler.binds.bind(phaseNumber(literalIn(call, 0)), 'smallint')
  return `(SELECT max(z.valid_from) FROM (SELECT h.valid_from, h.phase, lag(h.phase) OVER (ORDER BY h.valid_from) AS before FROM item_state h WHERE ${past(compiler)}) z WHERE z.phase = ${phase} AND z.before IS DISTINCT FROM z.phase)`
}
