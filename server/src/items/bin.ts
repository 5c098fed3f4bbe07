import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import type { ItemRow } from './row.ts'

/** What the bin shows of an item that was deleted. */
export interface DeletedRow {
  readonly project_id: number
  readonly number: number
  readonly type_id: number
  readonly title: string
  readonly by_kind: number
  readonly by_id: number | null
  readonly row_from: Date
  readonly total: number
}

/** Which deleted items are meant: since when, in which projects, and with which words in their title or ref. */
export interface DeletedAsked {
  readonly since: Date
  readonly projects: readonly number[]
  readonly words: string
  readonly limit: number
}

/** Items that were deleted, the latest first, each with how many there are. */
export async function deletedRows(
  database: Sequelize,
  { since, projects, words, limit }: DeletedAsked,
): Promise<DeletedRow[]> {
  return await rows<DeletedRow>(
    database,
    `SELECT i.project_id, i.number, i.type_id, i.title, i.by_kind, i.by_id, i.row_from,
      count(*) OVER ()::int AS total
    FROM item i JOIN project p ON p.id = i.project_id
    WHERE i.deleted AND i.row_from > $1 AND i.project_id = ANY($2::int[])
      AND ($3 = '' OR strpos(casei(i.title), casei($3)) > 0 OR p.code || '/' || i.number = upper($3))
    ORDER BY i.row_from DESC, i.id DESC LIMIT $4`,
    [since, projects, words, limit],
  )
}

/** Deleted items by the numbers of their projects and their numbers in them, locked, in the order of their making. */
export async function lockDeleted(
  database: Sequelize,
  { columns }: Pick<World, 'columns'>,
  places: readonly { readonly project: number; readonly number: number }[],
  since: Date,
): Promise<ItemRow[]> {
  return await rows<ItemRow>(
    database,
    `SELECT i.id, i.row_from, ${columns.map((column) => `i.${column}`).join(', ')}
    FROM unnest($1::int[], $2::int[]) AS place (project, number)
    JOIN item i ON i.project_id = place.project AND i.number = place.number
    WHERE i.deleted AND i.row_from > $3 ORDER BY i.id FOR UPDATE OF i`,
    [places.map(({ project }) => project), places.map(({ number }) => number), since],
  )
}
