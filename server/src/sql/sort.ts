import { type Binds, type QueryContext, stateOf } from './statement.ts'
import type { Domain, Property } from '@bluestem/core/queries'
import { Compiler } from './condition.ts'
import { limitLeft } from './limit.ts'
import { propertySql } from './property.ts'
import { rungSql, urgencySql } from './priority.ts'

/** One expression to sort by, with the type of its value, in which the last row of a page comes back. */
export interface SortExpression {
  readonly sql: string
  readonly type: 'text' | 'int' | 'numeric' | 'date' | 'timestamptz' | 'boolean'
}

const collated = (sql: string): SortExpression => ({
  sql: `${sql} COLLATE "und-x-icu"`,
  type: 'text',
})

const placed = (sql: string): SortExpression => ({ sql, type: 'int' })

/** Where a property's value stands in its defined order: the expressions to sort by, one after the other. */
export function sortSql(
  queryContext: QueryContext,
  binds: Binds,
  property: Property,
  alias: string,
): SortExpression[] {
  if (property.handle === 'ref')
    return [
      collated(`(SELECT code FROM project WHERE id = ${alias}.project_id)`),
      placed(`${alias}.number`),
    ]
  if (property.handle === 'parent') {
    const parent = stateOf(queryContext, binds, `${alias}.parent_id`, 'up')
    return [
      collated(`(SELECT (SELECT code FROM project WHERE id = up.project_id) FROM ${parent})`),
      placed(`(SELECT up.number FROM ${parent})`),
    ]
  }
  if (property.leftOf !== undefined)
    return [
      {
        sql: limitLeft(new Compiler(queryContext, binds, alias), property.leftOf),
        type: 'numeric',
      },
    ]
  const value = propertySql(queryContext, binds, property, alias)
  if (property.handle === 'priority')
    return [
      { sql: rungSql(queryContext, binds, alias), type: 'numeric' },
      { sql: urgencySql(queryContext, binds, alias), type: 'numeric' },
      placed(`(SELECT sort FROM priority WHERE number = ${value})`),
    ]
  if (property.handle === 'position') return [{ sql: value, type: 'text' }]
  const { type } = property
  switch (type.kind) {
    case 'text':
      return [collated(value)]
    case 'array':
      return [
        placed(
          `(SELECT min(array_position(${binds.bind(ordered(queryContext, type.domain), 'int[]')}, one)) FROM unnest(${value}) one)`,
        ),
      ]
    case 'choice':
      return [choicePlace(queryContext, binds, type.domain, value)]
    case 'number':
      return [{ sql: value, type: 'numeric' }]
    case 'timestamp':
      return [{ sql: value, type: 'timestamptz' }]
    case 'date':
    case 'boolean':
      return [{ sql: value, type: type.kind }]
    case 'interval':
      throw new Error('nothing is sorted by an interval')
  }
}

/** The tables of choices that have an order of their own. */
const tables: ReadonlyMap<string, string> = new Map([
  ['status', 'status'],
  ['type', 'item_type'],
])

function choicePlace(
  queryContext: QueryContext,
  binds: Binds,
  domain: Domain,
  value: string,
): SortExpression {
  if (domain === 'phase') return placed(value)
  const table = tables.get(domain) ?? (domain.startsWith('option:') ? 'field_option' : undefined)
  if (table) return placed(`(SELECT sort FROM ${table} WHERE number = ${value})`)
  if (domain === 'person')
    return {
      sql: `(SELECT name COLLATE "und-x-icu" FROM person WHERE id = ${value})`,
      type: 'text',
    }
  return placed(
    `array_position(${binds.bind(ordered(queryContext, domain), 'int[]')}, ${value}::int)`,
  )
}

const ordered = (
  queryContext: QueryContext,
  domain: Parameters<typeof queryContext.world.vocabulary.choices>[0],
): number[] =>
  queryContext.world.vocabulary
    .choices(domain)
    .flatMap(({ id }) => queryContext.world.numbers.of(domain, id) ?? [])
