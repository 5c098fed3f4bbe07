import type { Condition, ItemsAnswer } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { count, queryRows } from '../sql/run.ts'
import { invalid } from '../problems/problem.ts'
import { cannotTellStatement, countStatement, pageStatement } from '../sql/answers.ts'
import type { QueryContext } from '../sql/statement.ts'
import { etagOf } from '../items/etag.ts'
import { itemColumns, itemOf, type ListRow } from '../items/row.ts'
import { orderOf, propertiesOf } from './properties.ts'
import { readCursor, writeCursor } from './cursor.ts'

/** A question as it comes over HTTP, by GET or by POST. */
export interface Question {
  readonly filter?: unknown
  readonly 'filter-lang'?: string
  readonly sort?: string
  readonly fields?: string
  readonly limit?: number | string
  readonly offset?: number | string
  readonly cursor?: string
  readonly 'as-of'?: string
}

const usual = ['ref', 'title', 'status', 'priority', 'assignee', 'changed']

type Paging = Pick<Question, 'sort' | 'fields' | 'limit' | 'offset' | 'cursor'>

/** A page of answers, with how many can't be told. */
export async function answer(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  question: Paging,
): Promise<ItemsAnswer> {
  const unknown = cannotTellStatement(queryContext, condition)
  const [page, cannotTell] = await Promise.all([
    pageOfAnswers(database, queryContext, condition, question),
    unknown ? count(database, unknown) : 0,
  ])
  return { ...page, cannotTell }
}

/** how many answers a page may have */
const mostAtOnce = 1000

/** A page of answers with their number, for whoever knows already how many can't be told. */
export async function pageOfAnswers(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  question: Paging,
  most = mostAtOnce,
): Promise<Omit<ItemsAnswer, 'cannotTell'>> {
  const { world } = queryContext
  const limit = answersOf(question.limit, 'limit', 100, 1, most)
  const offset = answersOf(question.offset, 'offset', 0, 0, 10_000_000)
  const after = question.cursor ? readCursor(question.cursor) : undefined
  const order = orderOf(world, question.sort)
  const properties = propertiesOf(
    world,
    question.fields
      ? question.fields
          .split(',')
          .map((name) => name.trim())
          .filter(Boolean)
      : usual,
    '/fields',
  )
  const page = pageStatement(
    queryContext,
    condition,
    order,
    { limit, offset, ...(after ? { after } : {}) },
    itemColumns(queryContext, properties),
  )
  const found = await queryRows<ListRow & { total: number }>(database, page)
  const total =
    found[0]?.total ??
    (offset > 0 || after ? await count(database, countStatement(queryContext, condition)) : 0)
  const last = found.at(-1)
  return {
    items: found.map((row) => ({
      ...itemOf(world, row, properties),
      ...versionOf(queryContext, row),
    })),
    total,
    next: last && found.length === limit ? writeCursor(last) : null,
  }
}

/** The version an item of the present is at, for which a change of it is meant. */
const versionOf = ({ world, asOf }: QueryContext, row: ListRow): { etag?: string } =>
  asOf ? {} : { etag: etagOf(world, { row_from: row.state_from }) }

export function answersOf(
  given: number | string | undefined,
  name: string,
  usually: number,
  least: number,
  most: number,
): number {
  if (given === undefined || given === '') return usually
  const value = Number(given)
  if (!Number.isInteger(value) || value < least || value > most)
    throw invalid([
      {
        pointer: `/${name}`,
        message: `${name} is a whole number from ${least} to ${most}.`,
        expected: `${least} to ${most}`,
        found: String(given),
      },
    ])
  return value
}
