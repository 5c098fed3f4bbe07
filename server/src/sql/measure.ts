import { lastIn } from '@bluestem/core/known'
import type { Figure } from '@bluestem/core/dashboards'
import type { Condition, Property } from '@bluestem/core/queries'
import { groupSource } from './answers.ts'
import { Compiler } from './condition.ts'
import { propertySql } from './property.ts'
import { cutStates } from './rollUpOverTime.ts'
import {
  atMoment,
  Binds,
  permitted,
  type QueryContext,
  type Statement,
  stateTable,
} from './statement.ts'

/** What groups are told apart by: their key, and what it needs joined. */
type Grouping = ReturnType<typeof groupSource>

/** What a figure reads: its kind, and the number field it is about. */
export interface FigureSource {
  readonly figure: Figure
  readonly field: Property | undefined
}

/** The aggregate of a figure of states; percentiles of type 7 are linear between ranks. */
function aggregate(binds: Binds, { figure }: FigureSource, value: string): string {
  switch (figure.kind) {
    case 'count':
      return 'count(*)'
    case 'sum':
      return `coalesce(sum(${value}), 0)`
    case 'mean':
      return `avg(${value})`
    case 'least':
      return `min(${value})`
    case 'greatest':
      return `max(${value})`
    case 'median':
      return `percentile_cont(0.5) WITHIN GROUP (ORDER BY ${value}::float8)`
    case 'percentile':
      return `percentile_cont(${binds.bind((figure.p ?? 50) / 100, 'float8')}) WITHIN GROUP (ORDER BY ${value}::float8)`
    default:
      throw new Error(`${figure.kind} is no figure of states`)
  }
}

const valueOf = (
  queryContext: QueryContext,
  binds: Binds,
  { field }: FigureSource,
  alias: string,
): string => (field ? propertySql(queryContext, binds, field, alias) : '1')

/** A figure at one moment: each group's, and the total over the items, each counted once. */
export function figureStatement(
  queryContext: QueryContext,
  condition: Condition,
  source: FigureSource,
  by: Property | undefined,
): Statement {
  const binds = new Binds('i')
  const group = by ? groupSource(queryContext, binds, by, 'i') : { key: 'NULL', join: '' }
  const figure = aggregate(binds, source, valueOf(queryContext, binds, source, 'i'))
  const filter = `${permitted(queryContext, binds, 'i')}${atMoment(queryContext, binds, 'i')} AND ${new Compiler(queryContext, binds, 'i').condition(condition)}`
  const table = stateTable(queryContext)
  const groups = by
    ? `SELECT false AS whole, ${group.key}::text AS key, (${figure})::float8 AS value FROM ${table} i${binds.joins()}${group.join} WHERE ${filter} GROUP BY 2 UNION ALL `
    : ''
  return binds.statement(
    `${groups}SELECT true AS whole, NULL AS key, (${figure})::float8 AS value FROM ${table} i${binds.joins()} WHERE ${filter}`,
  )
}

/**
 * The course of a count or a sum in one pass over history: a state that meets the condition counts +1 when it begins and −1 when it ends.
 * Two grouped scans are joined, one by beginnings and one by ends; `width_bucket` over the bounds is exact whatever the zone.
 * Row k of a group is what changed in it between bound k−1 and bound k; k = 0 is all before the first bound.
 * The total comes apart only where an item may stand in several groups; else it is the sum of the groups.
 *
 * @param bounds the instants at which each step ends, ascending
 */
export function courseStatement(
  queryContext: QueryContext,
  condition: Condition,
  source: FigureSource,
  by: Property | undefined,
  bounds: readonly Date[],
): Statement {
  const binds = new Binds(undefined, 'i')
  const everything: QueryContext = { ...queryContext, asOf: true }
  const edges = binds.bind(
    bounds.map((bound) => bound.toISOString()),
    'timestamptz[]',
  )
  const last = binds.bind(lastIn(bounds).toISOString(), 'timestamptz')
  const filter = `${permitted(everything, binds, 'i')} AND ${new Compiler(everything, binds, 'i').condition(condition)}`
  const field = valueOf(everything, binds, source, 'i')
  const value =
    source.figure.kind === 'sum'
      ? `coalesce(sum(${field}), 0)`
      : source.field
        ? `count(${field})`
        : 'count(*)'
  const table = (): string => cutStates(binds.allSpans(), everything.world.columns)
  const pass = (
    edge: string,
    sign: string,
    group: Grouping,
  ): string => `SELECT width_bucket(i.${edge}, ${edges}) AS bucket, ${group.key}::text AS key, ${sign}${value} AS change, ${sign}count(*) AS items
    FROM ${table()} i${group.join} WHERE ${filter} AND i.valid_from < ${last}${edge === 'valid_to' ? ` AND i.valid_to < ${last}` : ''} GROUP BY 1, 2`
  const passes = (group: Grouping): string =>
    `${pass('valid_from', '', group)} UNION ALL ${pass('valid_to', '-', group)}`
  const whole = { key: 'NULL', join: '' }
  const parts = [
    ...(!by || by.type.kind === 'array'
      ? [
          `SELECT true AS whole, bucket, NULL AS key, sum(change)::text AS change, sum(items)::int AS items FROM (${passes(whole)}) z GROUP BY 2`,
        ]
      : []),
    ...(by
      ? [
          `SELECT false AS whole, bucket, key, sum(change)::text AS change, sum(items)::int AS items FROM (${passes(groupSource(everything, binds, by, 'i'))}) z GROUP BY 2, 3`,
        ]
      : []),
  ]
  const spans = binds.allSpans().map(({ name, sql }) => `${name} AS MATERIALIZED (${sql})`)
  const before = spans.length > 0 ? `WITH ${spans.join(', ')} ` : ''
  return binds.statement(`${before}${parts.join(' UNION ALL ')}`)
}

/** Means over time: sums and counts of the filled values, from which each step's mean is taken. */
export const meanParts = (source: FigureSource): readonly FigureSource[] => [
  { ...source, figure: { kind: 'sum' } },
  { ...source, figure: { kind: 'count' } },
]

/**
 * Items whose last entry into `done`, as known at the moment asked about, lies inside a span: when they were done, since when active and since when there.
 */
export function eventsStatement(
  queryContext: QueryContext,
  condition: Condition,
  by: Property | undefined,
  from: Date,
  to: Date,
): Statement {
  const binds = new Binds('i')
  const group = by ? groupSource(queryContext, binds, by, 'i') : { key: 'NULL', join: '' }
  const filter = `${permitted(queryContext, binds, 'i')}${atMoment(queryContext, binds, 'i')} AND ${new Compiler(queryContext, binds, 'i').condition(condition)}`
  return binds.statement(`SELECT i.id, ${group.key}::text AS key, i.done_at, i.first_active_at, i.created_at FROM ${stateTable(queryContext)} i${binds.joins()}${group.join}
      WHERE ${filter} AND i.done_at >= ${binds.instant(from.getTime())} AND i.done_at < ${binds.instant(to.getTime())}`)
}
