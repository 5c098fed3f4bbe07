import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import { holdTree } from '../sql/locks.ts'
import type { World } from '../workspace/world.ts'
import { type ItemPlace, namedIds, namedPlaces } from './named.ts'
import type { ItemRow, PastRow } from './row.ts'

type Columns = Pick<World, 'columns'>

/** Where an item is that had a number of a project before it went to another one; deleted ones are nowhere. */
export async function movedItem(
  database: Sequelize,
  project: number,
  number: number,
): Promise<{ readonly project_id: number; readonly number: number } | undefined> {
  const [found] = await rows<{ project_id: number; number: number }>(
    database,
    `SELECT i.project_id, i.number FROM moved_ref m JOIN item i ON i.id = m.item_id
    WHERE m.project_id = $1 AND m.number = $2 AND NOT i.deleted`,
    [project, number],
  )
  return found
}

/** The present row of an item that is not deleted, by project and number; locked when it is about to be changed. */
export async function rowByNumber(
  database: Sequelize,
  { columns }: Columns,
  project: number,
  number: number,
  lock: '' | 'FOR UPDATE' = '',
): Promise<ItemRow | undefined> {
  const [row] = await rows<ItemRow>(
    database,
    prepared(`SELECT id, row_from, ${columns.join(', ')} FROM item
    WHERE project_id = $1 AND number = $2 AND NOT deleted ${lock}`),
    [project, number],
  )
  return row
}

/** The present row of an item by its id. */
export async function rowById(
  database: Sequelize,
  { columns }: Columns,
  id: number,
): Promise<ItemRow | undefined> {
  const [row] = await rows<ItemRow>(
    database,
    `SELECT id, row_from, ${columns.join(', ')} FROM item WHERE id = $1`,
    [id],
  )
  return row
}

/** An item that is locked, with the edition in force. */
export type LockedRow = ItemRow & { readonly edition: number }

/** What an edit holds beside its item: the tree of items, which it may change; the hand order of its project. */
export interface Holds {
  readonly tree: boolean
  readonly order: boolean
}

/**
 * Items locked for a change in the order of their making, with the edition in force, which is locked before them as publishing locks
 * them.
 *
 * @param places the places of the items; the tree and an order are held for one alone, for what is locked in between would wait
 */
export async function lockRows(
  database: Sequelize,
  { columns }: Columns,
  places: readonly ItemPlace[],
  { tree, order }: Holds,
): Promise<LockedRow[]> {
  const { bound, table } = namedPlaces(places, 1)
  return await rows<LockedRow>(
    database,
    prepared(`SELECT e.number AS edition, i.id, i.row_from, ${columns.map((column) => `i.${column}`).join(', ')}
      ${tree ? `, ${holdTree}` : ''}
    FROM current_edition e, ${table}
    JOIN item i ON i.project_id = place.project AND i.number = place.number
      ${order ? 'JOIN project p ON p.id = i.project_id' : ''}
    WHERE NOT i.deleted
    ORDER BY i.id
    FOR SHARE OF e FOR UPDATE OF i${order ? ' FOR NO KEY UPDATE OF p' : ''}`),
    bound,
  )
}

/** The id of an item, deleted or not. */
export async function idByNumber(
  database: Sequelize,
  project: number,
  number: number,
): Promise<number | undefined> {
  const [found] = await rows<{ id: number }>(
    database,
    'SELECT id FROM item WHERE project_id = $1 AND number = $2',
    [project, number],
  )
  return found?.id
}

/** Since when an item under an alias has been in the status it is in. */
export const statusSinceSql = (alias: string): string =>
  `coalesce((SELECT max(v.valid_to) FROM item_version v WHERE v.id = ${alias}.id AND v.status_id <> ${alias}.status_id), ${alias}.created_at)`

/** Every state of items in projects that may be seen, those of one oldest first, with their texts and the refs of their parents. */
export async function statesOfItems(
  database: Sequelize,
  { columns }: Columns,
  ids: readonly number[],
  projects: readonly number[],
): Promise<(PastRow & { readonly id: number })[]> {
  return await rows(
    database,
    `SELECT s.id, s.valid_from, s.valid_to, ${columns.map((column) => `s.${column}`).join(', ')}, t.description,
      (SELECT (SELECT code FROM project WHERE id = up.project_id) || '/' || up.number
        FROM item up WHERE up.id = s.parent_id AND up.project_id = ANY($2::int[])) AS parent_ref
    FROM item_state s LEFT JOIN item_text t
      ON t.item_id = s.id AND t.valid_from <= s.valid_from AND t.valid_to > s.valid_from
    WHERE s.id = ANY($1::int[]) AND s.project_id = ANY($2::int[]) ORDER BY s.id, s.valid_from`,
    [ids, projects],
  )
}

/** A state as clocks count it. */
export interface ClockRow {
  readonly id: number
  readonly valid_from: Date
  readonly status_id: number
  readonly on_hold: boolean
}

/** Every state of items, those of one item in the order in which they were. */
export async function clockRows(database: Sequelize, ids: readonly number[]): Promise<ClockRow[]> {
  const { bound, among } = namedIds(ids)
  return await rows<ClockRow>(
    database,
    prepared(`SELECT id, valid_from, status_id, on_hold FROM item_state
    WHERE ${among('id')} ORDER BY id, valid_from`),
    [bound],
  )
}

/** What the allowance of a time limit depends on. */
export interface LimitedRow {
  readonly id: number
  readonly project_id: number
  readonly priority_id: number | null
  readonly labels: readonly number[]
}

export async function limitedRows(
  database: Sequelize,
  ids: readonly number[],
): Promise<LimitedRow[]> {
  return await rows<LimitedRow>(
    database,
    'SELECT id, project_id, priority_id, labels FROM item WHERE id = ANY($1::int[])',
    [ids],
  )
}
