import type { Computed } from '@bluestem/core/queries'
import { atMoment, type Binds, permitted, type QueryContext, stateTable } from './statement.ts'
import { propertySql } from './property.ts'

type RollUp = Extract<Computed, { kind: 'roll-up' }>

/** What a roll-up tells of the states under an alias. */
function rolledUp(
  queryContext: QueryContext,
  binds: Binds,
  { how, of }: RollUp,
  alias: string,
): string {
  if (how === 'share done')
    return shareOf(
      `count(*) FILTER (WHERE ${alias}.phase = 2)`,
      `count(*) FILTER (WHERE ${alias}.phase <> 3)`,
    )
  return `${aggregates[how]}(${propertySql(queryContext, binds, of!, alias)})::numeric`
}

const aggregates = { sum: 'sum', least: 'min', greatest: 'max' } as const

/** Done of what counts, in per cent with one decimal; empty where nothing counts. */
export const shareOf = (done: string, counted: string): string =>
  `round(100.0 * ${done} / nullif(${counted}, 0), 1)`

/**
 * A roll-up of every item that has something below it, in one pass. What stands directly below is summed up first; then each of
 * these sums is carried up, a level at a time, to everything above. UNION keeps each carrying once, so that a circle of parents ends.
 * OFFSET keeps the database from looking up each edge by its id, which takes longer than reading them all.
 */
export function rollUpOfAll(
  queryContext: QueryContext,
  binds: Binds,
  computed: RollUp,
  name: string,
): string {
  const states = `${stateTable(queryContext)} c WHERE c.parent_id IS NOT NULL${atMoment(queryContext, binds, 'c')} AND ${permitted(queryContext, binds, 'c')}`
  const share = computed.how === 'share done'
  const directly = share
    ? 'count(*) FILTER (WHERE c.phase = 2) AS done, count(*) FILTER (WHERE c.phase <> 3) AS counted'
    : `${rolledUp(queryContext, binds, computed, 'c')} AS value`
  const carried = share ? ['done', 'counted'] : ['value']
  const whole =
    computed.how === 'share done'
      ? shareOf('sum(done)', 'sum(counted)')
      : `${aggregates[computed.how]}(value)`
  return `(WITH RECURSIVE direct AS MATERIALIZED (SELECT c.parent_id AS above, ${directly} FROM ${states} GROUP BY c.parent_id),
      edge AS MATERIALIZED (SELECT id, parent_id FROM (SELECT c.id, c.parent_id FROM ${states} OFFSET 0) below WHERE id IN (SELECT above FROM direct)),
      carried (origin, above, ${carried.join(', ')}) AS (SELECT above, above, ${carried.join(', ')} FROM direct UNION SELECT l.origin, e.parent_id, ${carried.map((part) => `l.${part}`).join(', ')} FROM carried l JOIN edge e ON e.id = l.above)
    SELECT above, ${whole} AS value FROM carried GROUP BY above) ${name}`
}

/** A roll-up of one item: what stands below it, a level at a time, each item once. */
export function rollUpInPlace(
  queryContext: QueryContext,
  binds: Binds,
  computed: RollUp,
  alias: string,
): string {
  const child = (of: string): string =>
    `SELECT c.id FROM ${stateTable(queryContext)} c WHERE c.parent_id = ${of}${atMoment(queryContext, binds, 'c')} AND ${permitted(queryContext, binds, 'c')}`
  return `(WITH RECURSIVE below (id) AS (${child(`${alias}.id`)} UNION SELECT c.id FROM below b, LATERAL (${child('b.id')}) c)
    SELECT ${rolledUp(queryContext, binds, computed, 'd')} FROM below JOIN ${stateTable(queryContext)} d ON d.id = below.id${atMoment(queryContext, binds, 'd')})`
}
