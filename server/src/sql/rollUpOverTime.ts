import type { Computed } from '@bluestem/core/queries'
import { propertySql } from './property.ts'
import { shareOf } from './rollUp.ts'
import { type Binds, permitted, type QueryContext } from './statement.ts'

type RollUp = Extract<Computed, { kind: 'roll-up' }>

/**
 * What one state below an item adds to its roll-up while it lasts. Sums and shares are running totals of `counts`; the least and
 * the greatest cannot be subtracted from, so that each value is counted by itself.
 */
interface Contribution {
  /** whether each value is counted by itself */
  readonly byValue: boolean
  /** expressions that are added when a state begins and taken away when it ends, by name */
  readonly counts: Readonly<Record<string, string>>
  /** the value of a state; where there is none, the state adds nothing to a roll-up by value */
  readonly value: string
}

function contributionOf(queryContext: QueryContext, binds: Binds, rollUp: RollUp): Contribution {
  if (rollUp.how === 'share done')
    return {
      byValue: false,
      counts: { done: '(c.phase = 2)::int', counted: '(c.phase <> 3)::int' },
      value: 'NULL',
    }
  const value = `${propertySql(queryContext, binds, rollUp.of!, 'c')}::numeric`
  const filled = `(${value} IS NOT NULL)::int`
  return rollUp.how === 'sum'
    ? { byValue: false, counts: { total: `coalesce(${value}, 0)`, filled }, value }
    : { byValue: true, counts: { filled }, value }
}

/** The value of a roll-up from its running totals. */
const additive = (how: 'sum' | 'share done'): string =>
  how === 'sum' ? 'CASE WHEN filled > 0 THEN total END' : shareOf('done', 'counted')

/**
 * A roll-up of every item that has, or had, something below it, over all of history in one pass: spans in which its value stays the
 * same, which together cover all time. What stands directly below is turned into a running total first; then each span of it is
 * carried up, a level at a time, for as long as an item stood where it stood. UNION keeps each carrying once, so that a circle of
 * parents ends. A change that leaves a total as it was falls out at each of the two sums.
 *
 * @returns a SELECT of `above`, `valid_from`, `valid_to` and `value`
 */
export function rollUpSpans(queryContext: QueryContext, binds: Binds, rollUp: RollUp): string {
  const { byValue, counts, value } = contributionOf(queryContext, binds, rollUp)
  const names = Object.keys(counts)
  const key = byValue ? ['value'] : []
  const of = ['above', ...key].join(', ')
  const states = `item_state c WHERE c.parent_id IS NOT NULL AND ${permitted(queryContext, binds, 'c')}`
  const sums = names.map((name) => `sum(${name}) AS ${name}`).join(', ')
  const differs = names.map((name) => `sum(${name}) <> 0`).join(' OR ')
  const running = names.map((name) => `sum(${name}) OVER spans AS ${name}`).join(', ')

  /** Spans of running totals of what begins and ends in `from`. */
  const totals = (from: string): string => {
    const edge = (at: string, sign: string): string =>
      `SELECT ${[of, `${at} AS at`, ...names.map((name) => `${sign}${name} AS ${name}`)].join(', ')} FROM ${from} WHERE ${at} < 'infinity'`
    return `SELECT ${of}, at AS valid_from, lead(at, 1, 'infinity') OVER spans AS valid_to, ${running}
      FROM (SELECT ${of}, at, ${sums} FROM (${edge('valid_from', '')} UNION ALL ${edge('valid_to', '-')}) edges
        GROUP BY ${of}, at HAVING ${differs}) changes
      WINDOW spans AS (PARTITION BY ${of} ORDER BY at)`
  }

  const held = [
    'c.parent_id AS above',
    ...(byValue ? [`${value} AS value`] : []),
    'c.valid_from',
    'c.valid_to',
    ...Object.entries(counts).map(([name, count]) => `${count} AS ${name}`),
  ]
  const carriedParts = [...key, ...names].map((part) => `l.${part}`).join(', ')
  return `WITH RECURSIVE
    held AS (SELECT ${held.join(', ')} FROM ${states}${byValue ? ` AND ${value} IS NOT NULL` : ''}),
    direct AS MATERIALIZED (${totals('held')}),
    placed AS MATERIALIZED (SELECT id, parent_id, valid_from, valid_to
      FROM (SELECT c.id, c.parent_id, c.valid_from, c.valid_to FROM ${states} OFFSET 0) below
      WHERE id IN (SELECT c.parent_id FROM ${states})),
    carried (origin, above, valid_from, valid_to, ${[...key, ...names].join(', ')}) AS (
      SELECT above, above, valid_from, valid_to, ${[...key, ...names].join(', ')} FROM direct
      UNION
      SELECT l.origin, p.parent_id, greatest(l.valid_from, p.valid_from), least(l.valid_to, p.valid_to), ${carriedParts}
      FROM carried l JOIN placed p
        ON p.id = l.above AND p.valid_from < l.valid_to AND p.valid_to > l.valid_from),
    whole AS MATERIALIZED (${totals('carried')}),
    ${byValue ? extremes(rollUp.how === 'least' ? 'min' : 'max') : `told AS (SELECT above, valid_from, valid_to, ${additive(rollUp.how as 'sum' | 'share done')} AS value FROM whole)`}
    SELECT above, valid_from, valid_to, value FROM told
    UNION ALL
    SELECT above, '-infinity', min(valid_from), NULL FROM told GROUP BY above`
}

/** The least or greatest of the values that are there in each span between two changes. */
const extremes = (pick: 'min' | 'max'): string =>
  `bound AS (SELECT above, valid_from AS at FROM whole
      UNION SELECT above, valid_to FROM whole WHERE valid_to < 'infinity'),
    span AS (SELECT above, at AS valid_from, lead(at, 1, 'infinity') OVER (PARTITION BY above ORDER BY at) AS valid_to FROM bound),
    told AS (SELECT s.above, s.valid_from, s.valid_to, ${pick}(w.value) AS value
      FROM span s LEFT JOIN whole w
        ON w.above = s.above AND w.filled > 0 AND w.valid_from < s.valid_to AND w.valid_to > s.valid_from
      GROUP BY 1, 2, 3)`

/**
 * All states, cut where a roll-up changes in the middle of one, each with the value it has of every roll-up.
 *
 * @param names   the spans of each roll-up, as they stand in front of the statement
 * @param columns the columns of a state
 */
export const cutStates = (names: readonly string[], columns: readonly string[]): string =>
  names.reduce((table, name, index) => {
    const before = names.slice(0, index)
    const own = ['id', ...columns, ...before].map((column) => `s.${column}`).join(', ')
    return `(SELECT ${own}, ${name}.value AS ${name},
        greatest(s.valid_from, ${name}.valid_from) AS valid_from, least(s.valid_to, ${name}.valid_to) AS valid_to
      FROM ${table} s LEFT JOIN ${name}
        ON ${name}.above = s.id AND ${name}.valid_from < s.valid_to AND ${name}.valid_to > s.valid_from)`
  }, 'item_state')
