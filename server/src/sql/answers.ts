import type { Condition, Property } from '@bluestem/core/queries'
import { Compiler } from './condition.ts'
import { parentRefSql, propertySql } from './property.ts'
import { type SortExpression, sortSql } from './sort.ts'
import {
  atMoment,
  Binds,
  permitted,
  type QueryContext,
  type Statement,
  stateTable,
} from './statement.ts'

export interface OrderBy {
  readonly property: Property
  readonly direction: 'up' | 'down'
}

/** What a page of answers is read from: where it begins, by number of rows or after the last row of the page before. */
export interface Page {
  readonly limit: number
  readonly offset: number
  readonly after?: readonly (string | number | null)[]
}

const where = (
  queryContext: QueryContext,
  binds: Binds,
  condition: Condition,
  alias: string,
): string =>
  `${permitted(queryContext, binds, alias)}${atMoment(queryContext, binds, alias)} AND ${new Compiler(queryContext, binds, alias).condition(condition)}`

interface SortKey extends SortExpression {
  readonly direction: 'up' | 'down'
  readonly nullable: boolean
}

function sortKeys(queryContext: QueryContext, binds: Binds, order: readonly OrderBy[]): SortKey[] {
  return order.flatMap(({ property, direction }) =>
    sortSql(queryContext, binds, property, 'i').map((sortExpression) => ({
      ...sortExpression,
      direction,
      nullable: property.nullable || property.type.kind === 'array',
    })),
  )
}

/** Empty values come last both ways; where a value is always there, nothing is said of them, so that its index serves. */
const orderBy = (
  keys: readonly SortKey[],
  expression: (key: SortKey, index: number) => string,
  id: string,
): string =>
  [
    ...keys.map(
      (key, index) =>
        `${expression(key, index)} ${key.direction === 'up' ? 'ASC' : 'DESC'}${key.nullable ? ' NULLS LAST' : ''}`,
    ),
    id,
  ].join(', ')

/**
 * One page of answers with the exact total: the page and the count are plans of their own, for a window count beside a LIMIT
 * makes the planner walk the sort index over everything. Each row carries its sort keys, from which the next page is asked.
 */
export function pageStatement(
  queryContext: QueryContext,
  condition: Condition,
  order: readonly OrderBy[],
  page: Page,
  columns: (alias: string, binds: Binds) => readonly string[],
): Statement {
  const binds = new Binds('i')
  const filter = where(queryContext, binds, condition, 'i')
  if (binds.onePassOnly) return pageOfOnePass(queryContext, binds, filter, order, page, columns)
  // What only the order reads is no part of the count.
  const counted = binds.joins()
  const keys = sortKeys(queryContext, binds, order)
  const table = stateTable(queryContext)
  const after = page.after ? ` AND ${keyset(keys, page.after, binds, 'i.id')}` : ''
  const begins = queryContext.asOf ? 'valid_from' : 'row_from'
  const names = keys.map((_, index) => `k${index}`)
  const selected = keys.map((key, index) => `${key.sql} AS k${index}`)
  const sql = `SELECT ${[...columns('x', binds), 'm.total', ...names.map((name) => `m.${name}`)].join(', ')}
    FROM (SELECT ${['i.id', `i.${begins} AS state_from`, ...selected].join(', ')}, (SELECT count(*) FROM ${table} i${counted} WHERE ${filter}) AS total
      FROM ${table} i${binds.joins()} WHERE ${filter}${after} ORDER BY ${orderBy(keys, (key) => key.sql, 'i.id')} LIMIT ${binds.bind(page.limit, 'int')} OFFSET ${binds.bind(page.offset, 'int')}) m
    JOIN ${table} x ON x.id = m.id AND x.${begins} = m.state_from ORDER BY ${orderBy(keys, (_, index) => `m.${names[index]}`, 'm.id')}`
  return binds.statement(sql)
}

/** A page whose condition is much work: all answers are found once, and counted and cut from there. */
function pageOfOnePass(
  queryContext: QueryContext,
  binds: Binds,
  filter: string,
  order: readonly OrderBy[],
  page: Page,
  columns: (alias: string, binds: Binds) => readonly string[],
): Statement {
  const keys = sortKeys(queryContext, binds, order)
  const table = stateTable(queryContext)
  const begins = queryContext.asOf ? 'valid_from' : 'row_from'
  const named = keys.map((key, index): SortKey => ({
    ...key,
    sql: `m.k${index}${key.sql.includes('COLLATE "und-x-icu"') ? ' COLLATE "und-x-icu"' : ''}`,
  }))
  const selected = [
    'i.id',
    `i.${begins} AS state_from`,
    ...keys.map((key, index) => `${key.sql} AS k${index}`),
  ]
  const after = page.after ? ` WHERE ${keyset(named, page.after, binds, 'm.id')}` : ''
  return binds.statement(`WITH m AS MATERIALIZED (SELECT ${selected.join(', ')} FROM ${table} i${binds.joins()} WHERE ${filter}),
      p AS (SELECT * FROM m${after} ORDER BY ${orderBy(named, (key) => key.sql, 'm.id')} LIMIT ${binds.bind(page.limit, 'int')} OFFSET ${binds.bind(page.offset, 'int')})
    SELECT ${[...columns('x', binds), '(SELECT count(*) FROM m) AS total', ...keys.map((_, index) => `p.k${index}`)].join(', ')}
    FROM p JOIN ${table} x ON x.id = p.id AND x.${begins} = p.state_from ORDER BY ${orderBy(named, (_, index) => `p.k${index}`, 'p.id')}`)
}

/** The rows after a given row: values first, then those that are empty, ties by the order of making. */
function keyset(
  keys: readonly SortKey[],
  after: readonly (string | number | null)[],
  binds: Binds,
  idColumn: string,
): string {
  const id = binds.bind(after.at(-1), 'int')
  let rest = `${idColumn} > ${id}`
  for (const [index, key] of [...keys.entries()].reverse()) {
    const last = after[index] ?? null
    if (last === null) rest = `(${key.sql} IS NULL AND ${rest})`
    else {
      const place = keyPlace(binds, last, key)
      const further = `${key.sql} ${key.direction === 'up' ? '>' : '<'} ${place}${key.nullable ? ` OR ${key.sql} IS NULL` : ''}`
      rest = `(${further} OR (${key.sql} = ${place} AND ${rest}))`
    }
  }
  return rest
}

/** A sort key travels as text and takes the type of what it is compared with; text keeps its collation. */
const keyPlace = (binds: Binds, last: string | number, key: SortKey): string =>
  `${binds.bind(String(last), key.type)}${key.sql.includes('COLLATE "und-x-icu"') ? ' COLLATE "und-x-icu"' : ''}`

/** How many items answer. */
export function countStatement(queryContext: QueryContext, condition: Condition): Statement {
  const binds = new Binds('i')
  const filter = where(queryContext, binds, condition, 'i')
  return binds.statement(
    `SELECT count(*) AS total FROM ${stateTable(queryContext)} i${binds.joins()} WHERE ${filter}`,
  )
}

/** How many items can't be told: the whole is unknown for them. Undefined when none can be. */
export function cannotTellStatement(
  queryContext: QueryContext,
  condition: Condition,
): Statement | undefined {
  const binds = new Binds('i')
  const unknown = new Compiler(queryContext, binds, 'i').unknown(condition)
  return unknown === undefined
    ? undefined
    : binds.statement(
        `SELECT count(*) AS total FROM ${stateTable(queryContext)} i${binds.joins()} WHERE ${permitted(queryContext, binds, 'i')}${atMoment(queryContext, binds, 'i')} AND ${unknown}`,
      )
}

/** Which of several conditions one item meets, a column each in their order; what can't be told counts as no. */
export function meetsStatement(
  queryContext: QueryContext,
  conditions: readonly Condition[],
  id: number,
): Statement {
  // One item is asked about: what it needs is looked up in place.
  const binds = new Binds()
  const compiler = new Compiler(queryContext, binds, 'i')
  const columns = conditions.map(
    (condition, index) => `coalesce(${compiler.condition(condition)}, false) AS c${index}`,
  )
  return binds.statement(
    `SELECT ${columns.join(', ')} FROM item i WHERE i.id = ${binds.bind(id, 'int')}`,
  )
}

/** The ids of all answers, or of all that can't be told: what tests and bulk work read. */
export function idsStatement(
  queryContext: QueryContext,
  condition: Condition,
  which: 'answers' | 'cannot tell',
): Statement | undefined {
  const binds = new Binds('i')
  const compiler = new Compiler(queryContext, binds, 'i')
  const predicate =
    which === 'answers' ? compiler.condition(condition) : compiler.unknown(condition)
  return predicate === undefined
    ? undefined
    : binds.statement(
        `SELECT i.id FROM ${stateTable(queryContext)} i${binds.joins()} WHERE ${permitted(queryContext, binds, 'i')}${atMoment(queryContext, binds, 'i')} AND ${predicate} ORDER BY i.id`,
      )
}

/** The key of a group: the property's value; an item with several values stands in each of its groups. */
export function groupSource(
  queryContext: QueryContext,
  binds: Binds,
  property: Property,
  alias: string,
): { readonly key: string; readonly join: string } {
  if (property.handle === 'parent')
    return { key: parentRefSql(queryContext, binds, alias), join: '' }
  const value = propertySql(queryContext, binds, property, alias)
  if (property.type.kind === 'array')
    return { key: 'member.one', join: ` LEFT JOIN LATERAL unnest(${value}) AS member(one) ON true` }
  return {
    key:
      property.type.kind === 'timestamp'
        ? `(${value} AT TIME ZONE ${binds.bind(queryContext.world.zone, 'text')})::date`
        : value,
    join: '',
  }
}

/** Counts of answers by the values of a property; `late` of each were done before an instant. */
export function standingStatement(
  queryContext: QueryContext,
  condition: Condition,
  property: Property,
  finishedBefore: number | null,
): Statement {
  const binds = new Binds('i')
  const { key, join } = groupSource(queryContext, binds, property, 'i')
  const late =
    finishedBefore === null
      ? '0'
      : `count(*) FILTER (WHERE i.done_at < ${binds.instant(finishedBefore)})`
  const filter = where(queryContext, binds, condition, 'i')
  return binds.statement(
    `SELECT ${key}::text AS key, count(*) AS count, ${late} AS late FROM ${stateTable(queryContext)} i${binds.joins()}${join} WHERE ${filter} GROUP BY 1`,
  )
}

/** One item by its id, with the columns asked for. */
export function itemStatement(
  columns: (alias: string, binds: Binds) => string[],
  id: number,
): Statement {
  const binds = new Binds()
  const list = columns('x', binds).join(', ')
  return binds.statement(`SELECT ${list} FROM item x WHERE x.id = ${binds.bind(id, 'int')}`)
}
