import type { Sequelize } from 'sequelize'
import { row, rows } from '../database/connect.ts'
import { type Author, byKinds } from '../workspace/author.ts'
import type { World } from '../workspace/world.ts'

/** An item that is made: its values by column, and its texts. */
export interface NewRow {
  readonly ref: string
  readonly values: Readonly<Record<string, unknown>>
  readonly title: string
  readonly description: string | null
}

/**
 * Makes many items of one project in one statement, with their texts and their lines in the outbox.
 *
 * @returns the ids of the items by their numbers
 */
export async function makeMany(
  database: Sequelize,
  { columnTypes }: Pick<World, 'columnTypes'>,
  project: number,
  made: readonly NewRow[],
  author: Author,
  now: Date,
): Promise<ReadonlyMap<number, number>> {
  if (made.length === 0) return new Map()
  const columns = [...new Set(made.flatMap(({ values }) => Object.keys(values)))]
  const typed = columns.map((column) => `${column} ${columnTypes.get(column) ?? 'text'}`)
  const records = made.map(({ values, title, description, ref }) => ({
    ...values,
    of_title: title,
    of_description: description,
    of_ref: ref,
  }))
  const done = `CASE WHEN v.phase = 2 THEN $2::timestamptz(3) END`
  const found = await rows<{ id: number; number: number }>(
    database,
    `WITH v AS MATERIALIZED (SELECT * FROM jsonb_to_recordset($1::jsonb)
        AS v(${[...typed, 'of_title text', 'of_description text', 'of_ref text'].join(', ')})),
      made AS (INSERT INTO item (${columns.join(', ')}, row_from, created_at, changed_at, by_kind, by_id,
          first_active_at, first_done_at, done_at, held_since)
        SELECT ${columns.map((column) => `v.${column}`).join(', ')}, $2, $2, $2, $3::smallint, $4::int,
          CASE WHEN v.phase = 1 THEN $2::timestamptz(3) END, ${done}, ${done},
          CASE WHEN v.on_hold THEN $2::timestamptz(3) END
        FROM v ORDER BY v.number RETURNING id, number),
      text AS (INSERT INTO item_text (item_id, valid_from, title, description)
        SELECT made.id, $2, v.of_title, v.of_description FROM made JOIN v USING (number) RETURNING item_id),
      told AS (INSERT INTO outbox (at, kind, subject, project_id)
        SELECT $2, 'item', v.of_ref, $5::int FROM v RETURNING number)
    SELECT id, number, (SELECT pg_notify('outbox', max(number)::text)::text FROM told) FROM made`,
    [JSON.stringify(records), now, byKinds.indexOf(author.kind), author.number, project],
  )
  return new Map(found.map(({ id, number }) => [number, id]))
}

/** Reserves numbers of a project, which are not given again whatever becomes of them. @returns the first of them */
export async function reserveNumbers(
  database: Sequelize,
  project: number,
  count: number,
): Promise<number> {
  const found = await row<{ last_number: number }>(
    database,
    `UPDATE project SET last_number = $2 + greatest(
        last_number, (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1))
    WHERE id = $1 RETURNING last_number`,
    [project, count],
  )
  return found.last_number - count + 1
}

/** The number that the next item of a project would get. */
export async function nextNumber(database: Sequelize, project: number): Promise<number> {
  const found = await row<{ next: number }>(
    database,
    `SELECT 1 + greatest(last_number, (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1)) AS next
    FROM project WHERE id = $1`,
    [project],
  )
  return found.next
}

/** The items of a project by the values they hold in a column, deleted ones left out. */
export async function itemsByValue(
  database: Sequelize,
  project: number,
  column: string,
  values: readonly string[],
): Promise<{ id: number; value: string }[]> {
  return await rows<{ id: number; value: string }>(
    database,
    `SELECT id, ${column}::text AS value FROM item
    WHERE project_id = $1 AND NOT deleted AND ${column}::text = ANY($2::text[]) ORDER BY id`,
    [project, values],
  )
}
