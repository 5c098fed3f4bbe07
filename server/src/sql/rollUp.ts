import { lastIn } from '@bluestem/core/known'
import type { Computed } from '@bluestem/core/queries'
import { atMoment, type Binds, permitted, type QueryContext, stateTable } from './statement.ts'

/** A roll-up as it is compiled: how values are gathered, and the expression of one value under an alias. */
export interface RollUp {
  readonly how: Extract<Computed, { kind: 'roll-up' }>['how']
  readonly valueOf: (alias: string) => string
}

/** What a roll-up tells of the states under an alias. */
function rolledUp({ how, valueOf }: RollUp, alias: string): string {
  if (how === 'share done')
    return shareOf(
      `count(*) FILTER (WHERE ${alias}.phase = 2)`,
      `count(*) FILTER (WHERE ${alias}.phase <> 3)`,
    )
  return `${aggregates[how]}(${valueOf(alias)})::numeric`
}

const aggregates = { sum: 'sum', least: 'min', greatest: 'max' } as const

/** Done of what counts, in per cent with one decimal; empty where nothing counts. */
export const shareOf = (done: string, counted: string): string =>
  `round(100.0 * ${done} / nullif(${counted}, 0), 1)`

/** How what stands directly below and what was carried up from further below become one. */
const joined = {
  sum: `CASE WHEN u.value IS NULL THEN d.value WHEN d.value IS NULL THEN u.value ELSE d.value + u.value END`,
  least: 'least(d.value, u.value)',
  greatest: 'greatest(d.value, u.value)',
  'share done': shareOf('(d.done + coalesce(u.done, 0))', '(d.counted + coalesce(u.counted, 0))'),
} as const

/**
 * A roll-up of every item that has something below it, in one pass. What stands directly below is summed up first; each of these
 * sums is then carried up, a level at a time, to everything further above. UNION keeps each carrying once, so that a circle of
 * parents ends. Three hints to the planner, which knows nothing of how many rows a step gives: both sides of `edge` are in the order
 * of the id, so that they are merged; a range that holds every id lets it expect few edges, so that it hashes them once; OFFSET 0
 * keeps the value a column, of which a comparison shows that an item without a roll-up is no answer.
 */
export function rollUpOfAll(
  queryContext: QueryContext,
  binds: Binds,
  rollUp: RollUp,
  name: string,
): string {
  const states = `${stateTable(queryContext)} c WHERE c.parent_id IS NOT NULL${atMoment(queryContext, binds, 'c')} AND ${permitted(queryContext, binds, 'c')}`
  const share = rollUp.how === 'share done'
  const directly = share
    ? '(count(*) FILTER (WHERE c.phase = 2))::int AS done, (count(*) FILTER (WHERE c.phase <> 3))::int AS counted'
    : `${rolledUp(rollUp, 'c')} AS value`
  const parts = share ? ['done', 'counted'] : ['value']
  const of = (alias: string): string => parts.map((part) => `${alias}.${part}`).join(', ')
  const gather = rollUp.how === 'share done' ? 'sum' : aggregates[rollUp.how]
  const gathered = parts.map((part) => `${gather}(${part}) AS ${part}`).join(', ')
  // Of the past there is no index in the order of the id.
  const inOrder = queryContext.asOf ? 'OFFSET 0' : 'ORDER BY c.id'
  return `(WITH RECURSIVE direct AS MATERIALIZED (SELECT c.parent_id AS above, ${directly} FROM ${states} GROUP BY c.parent_id),
      edge AS MATERIALIZED (SELECT e.id, e.parent_id, ${of('d')}
        FROM (SELECT c.id, c.parent_id FROM ${states} ${inOrder}) e JOIN (SELECT * FROM direct ORDER BY above) d ON d.above = e.id),
      carried (origin, above, ${parts.join(', ')}) AS (SELECT id, parent_id, ${parts.join(', ')} FROM edge WHERE ${lastIn(parts)} IS DISTINCT FROM ${share ? '0' : 'NULL'}
        UNION SELECT l.origin, e.parent_id, ${of('l')} FROM carried l JOIN edge e ON e.id = l.above AND e.id BETWEEN 1 AND 2147483647)
    SELECT d.above, ${joined[rollUp.how]} AS value FROM direct d
      LEFT JOIN (SELECT above, ${gathered} FROM carried WHERE above <> origin GROUP BY above) u ON u.above = d.above OFFSET 0) ${name}`
}

/** A roll-up of one item: what stands below it, a level at a time, each item once. */
export function rollUpInPlace(
  queryContext: QueryContext,
  binds: Binds,
  rollUp: RollUp,
  alias: string,
): string {
  const child = (of: string): string =>
    `SELECT c.id FROM ${stateTable(queryContext)} c WHERE c.parent_id = ${of}${atMoment(queryContext, binds, 'c')} AND ${permitted(queryContext, binds, 'c')}`
  return `(WITH RECURSIVE below (id) AS (${child(`${alias}.id`)} UNION SELECT c.id FROM below b, LATERAL (${child('b.id')}) c)
    SELECT ${rolledUp(rollUp, 'd')} FROM below JOIN ${stateTable(queryContext)} d ON d.id = below.id${atMoment(queryContext, binds, 'd')})`
}
