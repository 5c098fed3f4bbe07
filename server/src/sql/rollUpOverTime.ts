import { entryOf } from '@bluestem/core/known'
import { type RollUp, shareOf } from './rollUp.ts'
import { type Binds, permitted, type QueryContext } from './statement.ts'

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

function contributionOf(rollUp: RollUp): Contribution {
  if (rollUp.how === 'share done')
    return {
      byValue: false,
      counts: { done: '(c.phase = 2)::int', counted: '(c.phase <> 3)::int' },
      value: 'NULL',
    }
  const value = `${rollUp.valueOf('c')}::numeric`
  const filled = `(${value} IS NOT NULL)::int`
  return rollUp.how === 'sum'
    ? { byValue: false, counts: { total: `coalesce(${value}, 0)`, filled }, value }
    : { byValue: true, counts: { filled }, value }
}

/** The value of a roll-up from its running totals. */
const additive = (how: RollUp['how']): string =>
  how === 'sum' ? 'CASE WHEN filled > 0 THEN total END' : shareOf('done', 'counted')

/**
 * A roll-up of every item that has, or had, something below it, over all of history in one pass: spans in which its value stays the
 * same, which together cover all time. What stands directly below is turned into a running total first; then each span of it is
 * carried up, a level at a time, for as long as an item stood where it stood. UNION keeps each carrying once, so that a circle of
 * parents ends. A state that follows one which added the same says nothing new, and a change that leaves a total as it was falls out.
 *
 * @returns a SELECT of `above`, `valid_from`, `valid_to` and `value`
 */
export function rollUpSpans(queryContext: QueryContext, binds: Binds, rollUp: RollUp): string {
  const { byValue, counts, value } = contributionOf(rollUp)
  const names = Object.keys(counts)
  const key = byValue ? ['value'] : []
  const parts = [...key, ...names]
  const of = (alias: string): string => parts.map((part) => `${alias}.${part}`).join(', ')
  const states = `item_state c WHERE c.parent_id IS NOT NULL AND ${permitted(queryContext, binds, 'c')}`
  const added = [
    ...(byValue ? [`${value} AS value`] : []),
    ...names.map((name) => `${entryOf(counts, name)} AS ${name}`),
  ]
  const same = ['above', ...parts]
  const neighbour = (side: 'lag' | 'lead', at: string): string =>
    `(${[at, ...same].map((column) => `${side}(${column}) OVER states`).join(', ')})`
  const inherits = `${neighbour('lag', 'valid_to')} IS NOT DISTINCT FROM (valid_from, ${same.join(', ')})`
  const passesOn = `${neighbour('lead', 'valid_from')} IS NOT DISTINCT FROM (valid_to, ${same.join(', ')})`
  return `WITH RECURSIVE
    held AS MATERIALIZED (SELECT *, ${inherits} AS inherits, ${passesOn} AS passes_on
      FROM (SELECT c.id, c.parent_id AS above, ${added.join(', ')}, c.valid_from, c.valid_to FROM ${states}) own
      WINDOW states AS (PARTITION BY id ORDER BY valid_from)),
    direct AS MATERIALIZED (${totals('held', { key, names }, { begins: 'NOT inherits', ends: 'NOT passes_on' })}),
    placed AS MATERIALIZED (SELECT id, above, valid_from, valid_to FROM held WHERE id IN (SELECT above FROM held)),
    carried (origin, above, valid_from, valid_to, ${parts.join(', ')}) AS (
      SELECT above, above, valid_from, valid_to, ${parts.join(', ')} FROM direct
      UNION
      SELECT l.origin, p.above, greatest(l.valid_from, p.valid_from), least(l.valid_to, p.valid_to), ${of('l')}
      FROM carried l JOIN placed p ON p.id = l.above AND p.id BETWEEN 1 AND 2147483647
        AND p.valid_from < l.valid_to AND p.valid_to > l.valid_from),
    whole AS MATERIALIZED (${totals('carried', { key, names })}),
    ${byValue ? extremes(rollUp.how === 'least' ? 'min' : 'max') : `told AS (SELECT above, valid_from, valid_to, ${additive(rollUp.how)} AS value FROM whole)`}
    SELECT above, valid_from, valid_to, value FROM told
    UNION ALL
    SELECT above, '-infinity', min(valid_from), NULL FROM told GROUP BY above`
}

/** Spans of running totals of what begins and ends in a table; `begins` and `ends` leave out where nothing changes. */
function totals(
  from: string,
  { key, names }: { readonly key: readonly string[]; readonly names: readonly string[] },
  { begins, ends } = { begins: 'TRUE', ends: 'TRUE' },
): string {
  const of = ['above', ...key].join(', ')
  const each = (make: (name: string) => string): string => names.map(make).join(', ')
  const edge = (at: string, sign: string, where: string): string =>
    `SELECT ${of}, ${at} AS at, ${each((name) => `${sign}${name} AS ${name}`)} FROM ${from}
      WHERE ${at} < 'infinity' AND ${where}${key.map((part) => ` AND ${part} IS NOT NULL`).join('')}`
  const edges = `${edge('valid_from', '', begins)} UNION ALL ${edge('valid_to', '-', ends)}`
  const differs = names.map((name) => `sum(${name}) <> 0`).join(' OR ')
  const changes = `SELECT ${of}, at, ${each((name) => `sum(${name}) AS ${name}`)}
    FROM (${edges}) edges GROUP BY ${of}, at HAVING ${differs}`
  return `SELECT ${of}, at AS valid_from, lead(at, 1, 'infinity') OVER spans AS valid_to,
      ${each((name) => `sum(${name}) OVER spans AS ${name}`)}
    FROM (${changes}) changes WINDOW spans AS (PARTITION BY ${of} ORDER BY at)`
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

/** A roll-up that cuts states: the name of its spans, which stand in front of the statement, and to which states under `s` it applies. */
export interface Cut {
  readonly name: string
  readonly applies: string
}

/**
 * All states, cut where a roll-up changes in the middle of one, each with the value it has of every roll-up.
 *
 * @param columns the columns of a state
 */
export const cutStates = (cuts: readonly Cut[], columns: readonly string[]): string =>
  cuts.reduce((table, { name, applies }, index) => {
    const before = cuts.slice(0, index).map((cut) => cut.name)
    const own = ['id', ...columns, ...before].map((column) => `s.${column}`).join(', ')
    return `(SELECT ${own}, ${name}.value AS ${name},
        greatest(s.valid_from, ${name}.valid_from) AS valid_from, least(s.valid_to, ${name}.valid_to) AS valid_to
      FROM ${table} s LEFT JOIN ${name} ON ${name}.above = s.id AND ${applies}
        AND ${name}.valid_from < s.valid_to AND ${name}.valid_to > s.valid_from)`
  }, 'item_state')
