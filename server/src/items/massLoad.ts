import { asNumber, elementAt, lastIn } from '@bluestem/core/known'
import { once } from 'node:events'
import { type Options, stringify } from 'csv-stringify/sync'
import type { Client } from 'pg'
import { type CopyStreamQuery, from as copyFrom } from 'pg-copy-streams'
import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'
import { listColumns } from '../workspace/columns.ts'
import type { World } from '../workspace/world.ts'

/** A state by column, with the moment it begins, in milliseconds. */
export type LoadedState = Record<string, unknown> & { readonly from: number }

/** An item with all its states, texts and comments, each oldest first. */
export interface LoadedItem {
  readonly id: number
  readonly states: readonly LoadedState[]
  readonly texts: readonly { from: number; title: string; description: string | null }[]
  readonly comments: readonly { at: number; by: number; body: string }[]
}

/** Does work that adds very many items while their tables have no indexes but the unique ones, which are then made behind the rows. */
export async function withoutIndexes<T>(database: Sequelize, work: () => Promise<T>): Promise<T> {
  const indexes = await rows<{ indexname: string; indexdef: string }>(
    database,
    `SELECT indexname, indexdef FROM pg_indexes
    WHERE schemaname = current_schema() AND tablename IN ('item', 'item_version', 'item_text')
      AND indexdef NOT LIKE 'CREATE UNIQUE%'`,
  )
  for (const { indexname } of indexes) await run(database, `DROP INDEX ${indexname}`)
  const done = await work()
  for (const { indexdef } of indexes) await run(database, indexdef)
  await run(database, 'ANALYZE item, item_version, item_text')
  return done
}

/** Numbers and counters go on after what was loaded, and the planner learns what there is. */
export async function continueNumbers(database: Sequelize): Promise<void> {
  for (const table of ['item', 'comment', 'person', 'project', 'label', 'component'])
    await rows(
      database,
      `SELECT setval(
        pg_get_serial_sequence('${table}', 'id'),
        (SELECT coalesce(max(id), 1) FROM ${table}))`,
    )
  await run(
    database,
    `UPDATE project p
    SET last_number = coalesce((SELECT max(number) FROM item WHERE project_id = p.id), 0)`,
  )
  for (const table of ['item', 'item_version', 'item_text', 'comment'])
    await run(database, `VACUUM ANALYZE ${table}`)
}

/** Adds items with their whole history by COPY. */
export async function copyStates(
  client: Client,
  world: World,
  loaded: readonly LoadedItem[],
): Promise<void> {
  const { columns } = world
  const several = listColumns(world.document, (field) => world.numbers.numberOf('field', field))
  await copy(
    client,
    `item (id, row_from, ${columns.join(', ')})`,
    loaded.map(({ id, states }) => [
      id,
      moment(lastIn(states).from),
      ...columns.map((column) => copied(lastIn(states), column, several)),
    ]),
  )
  await copy(
    client,
    `item_version (id, valid_from, valid_to, ${columns.join(', ')})`,
    loaded.flatMap(({ id, states }) =>
      states
        .slice(0, -1)
        .map((state, index) => [
          id,
          moment(state.from),
          moment(elementAt(states, index + 1).from),
          ...columns.map((column) => copied(state, column, several)),
        ]),
    ),
  )
  await copy(
    client,
    'item_text (item_id, valid_from, title, description)',
    loaded.flatMap(({ id, texts }) =>
      texts.map((text) => [id, moment(text.from), text.title, text.description]),
    ),
  )
  await copy(
    client,
    'comment (item_id, body, by_id, at)',
    loaded.flatMap(({ id, comments }) =>
      comments.map((comment) => [id, comment.body, comment.by, moment(comment.at)]),
    ),
  )
}

const moments = new Set([
  'created_at',
  'changed_at',
  'first_active_at',
  'first_done_at',
  'done_at',
  'held_since',
])
const moment = (at: number): string => new Date(at).toISOString()

/** A column's value for COPY; an array that a state does not name is empty. */
function copied(state: LoadedState, column: string, several: ReadonlySet<string>): unknown {
  const value = state[column]
  if (value === null || value === undefined) return several.has(column) ? '{}' : null
  if (moments.has(column)) return moment(asNumber(value))
  return Array.isArray(value) ? `{${value.join(',')}}` : value
}

async function copy(
  client: Client,
  target: string,
  lines: readonly (readonly unknown[])[],
): Promise<void> {
  if (lines.length === 0) return
  const stream: CopyStreamQuery = client.query(copyFrom(`COPY ${target} FROM STDIN (FORMAT csv)`))
  const finished = once(stream, 'finish')
  for (let at = 0; at < lines.length; at += 500)
    if (!stream.write(stringify(lines.slice(at, at + 500), asCopied))) await once(stream, 'drain')
  stream.end()
  await finished
}

/** CSV as COPY reads it: what is empty is NULL, for no empty text is ever kept. */
const asCopied: Options = { cast: { boolean: (value) => (value ? 't' : 'f') } }
