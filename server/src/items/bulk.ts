import type { BulkRefusal } from '@bluestem/core/bulk'
import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import type { ItemRow, StateRow } from './row.ts'

/** How far an item of a change of many is. */
export const outcomes = { waiting: 0, changed: 1, same: 2, refused: 3, takenBack: 4 } as const

export interface Outcome {
  readonly id: number
  readonly outcome: (typeof outcomes)[keyof typeof outcomes]
  /** when the state begins that was written */
  readonly at?: Date
  readonly why?: string
}

/** Puts items under a change of many. */
export async function addBulkItems(
  database: Sequelize,
  bulk: number,
  ids: readonly number[],
): Promise<void> {
  await run(
    database,
    'INSERT INTO bulk_item (bulk_id, item_id) SELECT $1, unnest($2::int[]) ON CONFLICT DO NOTHING',
    [bulk, ids],
  )
}

/** Puts what a change of many changed under the change that takes it back. */
export async function addChangedItems(
  database: Sequelize,
  bulk: number,
  of: number,
): Promise<void> {
  await run(
    database,
    'INSERT INTO bulk_item (bulk_id, item_id) SELECT $1, item_id FROM bulk_item WHERE bulk_id = $2 AND outcome = $3',
    [bulk, of, outcomes.changed],
  )
}

/** The next items of a change that have an outcome, in the order of their making. */
export async function bulkItems(
  database: Sequelize,
  bulk: number,
  outcome: Outcome['outcome'],
  limit: number,
): Promise<number[]> {
  const found = await rows<{ item_id: number }>(
    database,
    'SELECT item_id FROM bulk_item WHERE bulk_id = $1 AND outcome = $2 ORDER BY item_id LIMIT $3',
    [bulk, outcome, limit],
  )
  return found.map((entry) => entry.item_id)
}

/** Keeps what became of items. */
export async function recordOutcomes(
  database: Sequelize,
  bulk: number,
  found: readonly Outcome[],
): Promise<void> {
  await run(
    database,
    `UPDATE bulk_item b SET outcome = o.outcome, at = coalesce(o.at, b.at), why = o.why
    FROM jsonb_to_recordset($2::jsonb) AS o(id int, outcome smallint, at timestamptz(3), why text)
    WHERE b.bulk_id = $1 AND b.item_id = o.id`,
    [bulk, JSON.stringify(found)],
  )
}

export interface OutcomeCount {
  readonly bulk: number
  readonly outcome: number
  readonly count: number
}

/** How many items of changes of many have which outcome. */
export async function countOutcomes(
  database: Sequelize,
  bulks: readonly number[],
): Promise<OutcomeCount[]> {
  return await rows<OutcomeCount>(
    database,
    `SELECT bulk_id AS bulk, outcome, count(*)::int AS count FROM bulk_item
    WHERE bulk_id = ANY($1::int[]) GROUP BY 1, 2`,
    [bulks],
  )
}

/**
 * Why items of changes of many were refused, the most frequent reason first.
 *
 * @param projects the numbers of the projects whose refs may be told
 */
export async function bulkRefusals(
  database: Sequelize,
  bulks: readonly number[],
  projects: readonly number[],
  most: number,
): Promise<(BulkRefusal & { readonly bulk: number })[]> {
  return await rows<BulkRefusal & { bulk: number }>(
    database,
    `SELECT b.bulk_id AS bulk, b.why AS message, count(*)::int AS count,
      coalesce((array_agg(p.code || '/' || i.number ORDER BY b.item_id)
        FILTER (WHERE i.project_id = ANY($3::int[])))[1:$4], '{}') AS refs
    FROM bulk_item b JOIN item i ON i.id = b.item_id JOIN project p ON p.id = i.project_id
    WHERE b.bulk_id = ANY($1::int[]) AND b.outcome = $2 GROUP BY b.bulk_id, b.why ORDER BY 3 DESC, b.why COLLATE "C"`,
    [bulks, outcomes.refused, projects, most],
  )
}

/** Ids of items that are not deleted, by the numbers of their projects and their numbers in them. */
export async function idsOfPlaces(
  database: Sequelize,
  projects: readonly number[],
  numbers: readonly number[],
): Promise<number[]> {
  const found = await rows<{ id: number }>(
    database,
    `SELECT i.id FROM unnest($1::int[], $2::int[]) AS place (project, number)
    JOIN item i ON i.project_id = place.project AND i.number = place.number
    WHERE NOT i.deleted ORDER BY i.id`,
    [projects, numbers],
  )
  return found.map(({ id }) => id)
}

type Columns = Pick<World, 'columns'>

/** The present rows of items, deleted or not, in the order of their making. */
export async function rowsById(
  database: Sequelize,
  { columns }: Columns,
  ids: readonly number[],
): Promise<ItemRow[]> {
  return await rows<ItemRow>(
    database,
    `SELECT id, row_from, ${columns.join(', ')} FROM item WHERE id = ANY($1::int[]) ORDER BY id`,
    [ids],
  )
}

/** The same, locked for a change, with the edition in force, which is locked before them as publishing locks them. */
export async function lockById(
  database: Sequelize,
  { columns }: Columns,
  ids: readonly number[],
): Promise<(ItemRow & { readonly edition: number })[]> {
  return await rows<ItemRow & { edition: number }>(
    database,
    `SELECT e.number AS edition, i.id, i.row_from, ${columns.map((column) => `i.${column}`).join(', ')}
    FROM current_edition e, item i WHERE i.id = ANY($1::int[]) ORDER BY i.id
    FOR SHARE OF e FOR UPDATE OF i`,
    [ids],
  )
}

/** What an item held before a change of many, and what that made of it. */
export interface BulkStates {
  readonly before: StateRow
  readonly written: StateRow
}

/** The states of items before and after a change of many; of those it did not change there are none. */
export async function statesAroundBulk(
  database: Sequelize,
  { columns }: Columns,
  bulk: number,
  ids: readonly number[],
): Promise<ReadonlyMap<number, BulkStates>> {
  const list = columns.map((column) => `s.${column}`).join(', ')
  const asked = async (from: string, on: string): Promise<(StateRow & { id: number })[]> =>
    await rows<StateRow & { id: number }>(
      database,
      `SELECT s.id, ${list} FROM bulk_item b JOIN ${from} s ON s.id = b.item_id AND ${on}
      WHERE b.bulk_id = $1 AND b.item_id = ANY($2::int[])`,
      [bulk, ids],
    )
  const written = await asked('item_state', 's.valid_from = b.at')
  const before = new Map(
    (await asked('item_version', 's.valid_to = b.at')).map((row) => [row.id, row]),
  )
  return new Map(
    written.flatMap((row) => {
      const was = before.get(row.id)
      return was ? [[row.id, { before: was, written: row }]] : []
    }),
  )
}
