import { cellOf, type Export } from '@bluestem/core/exchange'
import type { ItemAnswer, Property } from '@bluestem/core/queries'
import { stringify } from 'csv-stringify/sync'
import type { Sequelize } from 'sequelize'
import { invalid } from '../problems/problem.ts'
import { pageOfAnswers } from '../queries/answers.ts'
import { readQuestion } from '../queries/filter.ts'
import { propertiesOf } from '../queries/properties.ts'
import { throughGate } from '../sql/locks.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** How many answers a file may hold. */
export const mostExported = 100_000

/** A file that is handed out. */
export interface HandedOut {
  readonly text: string
  readonly type: string
  readonly name: string
}

/** What stands first in a file in UTF-8, by which spreadsheets know it. */
const mark = '\uFEFF'

const valueOf = (item: ItemAnswer, { handle, builtIn }: Property): unknown =>
  builtIn ? item[handle] : item.fields?.[handle]

/** Rows as RFC 4180 writes them; a lone carriage return, too, is quoted. */
export const csvOf = (rows: string[][]): string =>
  mark + stringify(rows, { record_delimiter: '\r\n', quoted_match: /[\r\n]|^\s|\s$/ })

/**
 * All answers of a question as a file, in its columns and order: what the screen shows page by page.
 *
 * @throws Problem 400 where there are more than a file may hold
 */
export async function exportAnswers(
  database: Sequelize,
  { world, person, now }: ActorContext,
  question: Export,
): Promise<HandedOut> {
  const names = (question.fields ?? 'ref,title,status').split(',').map((name) => name.trim())
  const properties = propertiesOf(world, names, '/fields')
  const condition = readQuestion(world, question)
  const queryContext = queryContextOf(world, person, now, question['as-of'])
  const asked = {
    fields: names.join(','),
    limit: mostExported,
    ...(question.sort === undefined ? {} : { sort: question.sort }),
  }
  const { items, total } = await throughGate(
    database,
    async () => await pageOfAnswers(database, queryContext, condition, asked, mostExported),
  )
  if (total > mostExported)
    throw invalid([
      {
        pointer: '/filter',
        message: `These are ${total} answers; a file holds at most ${mostExported}.`,
        expected: 'a narrower question',
        found: String(total),
      },
    ])
  const day = now.toISOString().slice(0, 10)
  if (question.format === 'json')
    return {
      text: JSON.stringify({ items: items.map(({ etag: _, ...item }) => item), total }, null, 1),
      type: 'application/json; charset=utf-8',
      name: `answers-${day}.json`,
    }
  const rows = items.map((item) =>
    properties.map((property) => cellOf(property, valueOf(item, property))),
  )
  return {
    text: csvOf([properties.map(({ title }) => title), ...rows]),
    type: 'text/csv; charset=utf-8',
    name: `answers-${day}.csv`,
  }
}
