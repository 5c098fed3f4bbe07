import { firstIn } from '@bluestem/core/known'
import { cellOf, type Export, type Format } from '@bluestem/core/exchange'
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
import type { World } from '../workspace/world.ts'
import { calendarOf } from './calendar.ts'
import { feedOf } from './feed.ts'
import type { Labelled } from './labelled.ts'
import { valueOf } from './valueOf.ts'

/** How many answers a file may hold. */
export const mostExported = 100_000

/** A file that is handed out. */
export interface HandedOut {
  readonly text: string
  readonly type: string
  readonly name: string
}

/** A form in which answers are taken out. */
interface FileForm {
  readonly type: string
  readonly ending: string
  /** the handles it reads of each answer, those of the question where it says nothing */
  readonly reads?: (question: Export) => readonly string[]
  readonly write: (
    items: readonly ItemAnswer[],
    properties: readonly Property[],
    labelled: Labelled,
  ) => string
}

/** What stands first in a file in UTF-8, by which spreadsheets know it. */
const mark = '\uFEFF'

/** Rows as RFC 4180 writes them; a lone carriage return, too, is quoted. */
export const csvOf = (rows: string[][]): string =>
  mark + stringify(rows, { record_delimiter: '\r\n', quoted_match: /[\r\n]|^\s|\s$/ })

const usualDate = 'due'

const forms: Readonly<Record<Format, FileForm>> = {
  csv: {
    type: 'text/csv; charset=utf-8',
    ending: 'csv',
    write: (items, properties) => {
      const rows = items.map((item) =>
        properties.map((property) => cellOf(property, valueOf(item, property))),
      )
      return csvOf([properties.map(({ title }) => title), ...rows])
    },
  },
  json: {
    type: 'application/json; charset=utf-8',
    ending: 'json',
    write: (items) => {
      const told = items.map(({ etag: _, ...item }) => item)
      return JSON.stringify({ items: told, total: items.length }, null, 1)
    },
  },
  icalendar: {
    type: 'text/calendar; charset=utf-8',
    ending: 'ics',
    reads: ({ date = usualDate }) => [date, 'title', 'status', 'assignee', 'changed'],
    write: (items, dates, labelled) => calendarOf(items, firstIn(dates), labelled),
  },
  atom: {
    type: 'application/atom+xml; charset=utf-8',
    ending: 'atom',
    reads: () => ['title', 'status', 'assignee', 'raised_by', 'created', 'changed', 'description'],
    write: (items, _, labelled) => feedOf(items, labelled),
  },
}

/** @throws Problem 400 where a calendar is asked for that shows no date */
export function judgeDate(world: World, { format, date = usualDate }: Export): void {
  const property = world.vocabulary.properties.get(date)
  const isDate = property?.type.kind === 'date' || property?.type.kind === 'timestamp'
  if (format !== 'icalendar' || isDate) return
  throw invalid([
    {
      pointer: '/date',
      message: property ? `${property.title} is no date.` : `There is no field “${date}”.`,
      expected: 'the handle of a date or a moment',
      found: date,
    },
  ])
}

/**
 * All answers of a question as a file, in its columns and order: what the screen shows page by page.
 *
 * @param origin where the application answers, for the addresses of items
 * @throws Problem 400 where there are more than a file may hold
 */
export async function exportAnswers(
  database: Sequelize,
  { world, person, now }: ActorContext,
  question: Export,
  origin: string,
): Promise<HandedOut> {
  const form = forms[question.format]
  judgeDate(world, question)
  const given = (question.fields ?? 'ref,title,status').split(',').map((name) => name.trim())
  const names = form.reads?.(question) ?? given
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
  const labelled = {
    title: question.title ?? 'Answers',
    addressOf: (ref: string) => `${origin}/work/${ref}`,
    host: new URL(origin).hostname,
    workspace: world.title,
    now,
  }
  return {
    text: form.write(items, properties, labelled),
    type: form.type,
    name: `answers-${now.toISOString().slice(0, 10)}.${form.ending}`,
  }
}
