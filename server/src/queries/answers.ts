import { instantOf, isDay, isInstantText, endOfDay } from '@bluestem/core/calendar'
import {
  readQuery,
  type Condition,
  type Cql2Json,
  type Line,
  type Property,
  type QueryError,
  type ReadQuery,
} from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { visibleProjects, type Person, type World } from '../database/world.ts'
import { codeOf } from '../database/failure.ts'
import { readJson } from '../http/body.ts'
import { invalid } from '../http/problem.ts'
import { cannotTellStatement, countStatement, pageStatement, type OrderBy } from '../sql/answers.ts'
import type { Asking, Statement } from '../sql/statement.ts'
import { itemColumns, itemOf, type Row } from '../work/row.ts'

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

/** Nothing is asked about before this: relative functions reach back a hundred years from there. */
const earliest = '1900-01-01'

/** How a person asks about a moment: the present, or as of an instant or the end of a day. */
export function askingOf(world: World, person: Person, now: Date, asOf?: string): Asking {
  const visible = visibleProjects(world, person)
  if (asOf === undefined || asOf === '')
    return { world, me: person.number, moment: now.getTime(), asOf: false, visible }
  if ((!isDay(asOf) && !isInstantText(asOf)) || asOf < earliest)
    throw invalid([
      {
        pointer: '/as-of',
        message: `“${asOf}” is neither a day nor a moment in UTC.`,
        expected: `2026-03-01 or 2026-03-01T08:00:00Z, from ${earliest} on`,
        found: asOf,
      },
    ])
  // Nothing is known of what is still to come: it is asked about as of now.
  const moment = Math.min(isDay(asOf) ? endOfDay(asOf, world.zone) : instantOf(asOf), now.getTime())
  return { world, me: person.number, moment, asOf: true, visible }
}

/** Reads a filter, or answers 400 with its errors and their places. None, or a blank one, asks for everything. */
export function readFilter(world: World, filter: unknown, lang: string | undefined): ReadQuery {
  if (filter === undefined || (typeof filter === 'string' && filter.trim() === ''))
    return readFilter(world, true, 'cql2-json')
  const outcome =
    lang === 'cql2-json' || (lang === undefined && typeof filter !== 'string')
      ? readQuery(
          { lang: 'cql2-json', filter: typeof filter === 'string' ? parseJson(filter) : filter },
          world.vocabulary,
        )
      : readQuery(
          { lang: 'cql2-text', filter: typeof filter === 'string' ? filter : '' },
          world.vocabulary,
        )
  if (!outcome.ok) throw invalidFilter(outcome.errors)
  return outcome.value
}

/** Reads the filter a saved query keeps, whose choices are identities. */
export function readKept(world: World, filter: unknown): ReadQuery {
  const outcome = readQuery({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  if (!outcome.ok) throw invalidFilter(outcome.errors)
  return outcome.value
}

/** A kept filter as it is told: its text and its sentence, or what is wrong with it since something it names is gone. */
export function toldFilter(
  world: World,
  filter: Cql2Json,
): {
  readonly text: string
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
} {
  const read = readQuery({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  return read.ok
    ? { text: read.value.text, sentence: read.value.sentence, errors: [] }
    : { text: '', sentence: [], errors: read.errors }
}

const invalidFilter = (errors: readonly QueryError[]): ReturnType<typeof invalid> =>
  invalid(errors.map((error) => ({ ...error, pointer: `/filter${error.pointer ?? ''}` })))

function parseJson(text: string): unknown {
  try {
    return readJson(text)
  } catch {
    throw invalid([
      {
        pointer: '/filter',
        message: 'The filter is not JSON.',
        expected: '{"op": …, "args": […]}',
      },
    ])
  }
}

/** A page of answers shows or sorts by at most so many properties. */
const mostProperties = 100

/** The properties named in a list such as `ref,title,-changed`; an unknown one is an error that names it. */
export function propertiesOf(world: World, names: readonly string[], pointer: string): Property[] {
  if (names.length > mostProperties)
    throw invalid([
      {
        pointer,
        message: `At most ${mostProperties} properties are read at a time; ${names.length} are named.`,
        expected: `at most ${mostProperties}`,
      },
    ])
  return names.map((name) => {
    const property = world.vocabulary.properties.get(name)
    if (!property)
      throw invalid([
        {
          pointer,
          message: `There is no property “${name}”.`,
          expected: 'a property',
          found: name,
        },
      ])
    return property
  })
}

/** An order such as `-changed,ref`: a minus sign for downwards. */
export function orderOf(world: World, sort: string | undefined): OrderBy[] {
  const parts = (sort ?? '')
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)
  propertiesOf(
    world,
    parts.map((part) => part.replace(/^[-+]/, '')),
    '/sort',
  )
  return parts.map((part) => {
    const down = part.startsWith('-')
    return {
      property: propertiesOf(world, [part.replace(/^[-+]/, '')], '/sort')[0]!,
      direction: down ? 'down' : 'up',
    }
  })
}

const usual = ['ref', 'title', 'status', 'priority', 'assignee', 'changed']

export interface Answers {
  readonly items: readonly Record<string, unknown>[]
  readonly total: number
  readonly cannotTell: number
  readonly next: string | null
}

export async function answer(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  question: Pick<Question, 'sort' | 'fields' | 'limit' | 'offset' | 'cursor'>,
): Promise<Answers> {
  const { world } = asking
  const limit = whole(question.limit, 'limit', 100, 1, 1000)
  const offset = whole(question.offset, 'offset', 0, 0, 10_000_000)
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
    asking,
    condition,
    order,
    { limit, offset, ...(after ? { after } : {}) },
    itemColumns(asking, properties),
  )
  const unknown = cannotTellStatement(asking, condition)
  const [found, cannotTell] = await Promise.all([
    ask<Row & { total: number }>(database, page),
    unknown ? count(database, unknown) : 0,
  ])
  const total =
    found[0]?.total ??
    (offset > 0 || after ? await count(database, countStatement(asking, condition)) : 0)
  const last = found.at(-1)
  return {
    items: found.map((row) => itemOf(world, row, properties)),
    total,
    cannotTell,
    next: last && found.length === limit ? writeCursor(last) : null,
  }
}

/** Runs a statement; a figure that grows beyond what a database computes is the question's fault, not a defect. */
export async function ask<T extends object>(
  database: Sequelize,
  statement: Statement,
): Promise<T[]> {
  try {
    return await rows<T>(database, statement.sql, statement.bind)
  } catch (error) {
    if (codeOf(error) === '22003')
      throw invalid([
        {
          pointer: '/filter',
          message: 'A number in this query grows beyond what can be computed.',
          expected: 'smaller numbers',
        },
      ])
    throw error
  }
}

export const count = async (database: Sequelize, statement: Statement): Promise<number> =>
  (await ask<{ total: number }>(database, statement))[0]!.total

export function whole(
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

/** A cursor holds the sort keys of the last row and its id. */
function writeCursor(row: Row): string {
  const keys: unknown[] = []
  for (let index = 0; `k${index}` in row; index += 1) keys.push(row[`k${index}`])
  return Buffer.from(JSON.stringify([...keys, row['id']])).toString('base64url')
}

function readCursor(cursor: string): (string | number | null)[] {
  try {
    const keys: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8'))
    if (
      Array.isArray(keys) &&
      Number.isInteger(keys.at(-1)) &&
      Math.abs(keys.at(-1) as number) < 2 ** 31 &&
      keys.every(
        (key) =>
          key === null ||
          typeof key === 'string' ||
          typeof key === 'number' ||
          typeof key === 'boolean',
      )
    )
      return keys.map((key) =>
        typeof key === 'boolean' ? String(key) : (key as string | number | null),
      )
  } catch {
    // answered below, like every other cursor that cannot be read
  }
  throw invalid([
    {
      pointer: '/cursor',
      message: 'This cursor was not given by Bluestem; leave it out to begin anew.',
      expected: 'the “next” of an earlier answer',
    },
  ])
}
