import type { Sequelize } from 'sequelize'
import { row, rows } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import type { StateRow } from './row.ts'

type TypeRow = Pick<StateRow, 'number' | 'project_id' | 'type_id'>
type ChildRow = TypeRow & Pick<StateRow, 'status_id' | 'title'>

/** What stands directly below an item in projects that may be seen, in hand order, at most two hundred. */
export async function childrenOf(
  database: Sequelize,
  id: number,
  projects: readonly number[],
): Promise<ChildRow[]> {
  return await rows<ChildRow>(
    database,
    prepared(`SELECT number, project_id, type_id, status_id, title FROM item
    WHERE parent_id = $1 AND NOT deleted AND project_id = ANY($2::int[])
    ORDER BY position, id LIMIT 200`),
    [id, projects],
  )
}

/** What stands directly below an item, in any project: its place and its type. */
export async function typesBelow(database: Sequelize, id: number): Promise<TypeRow[]> {
  return await rows<TypeRow>(
    database,
    `SELECT number, project_id, type_id FROM item
    WHERE parent_id = $1 AND NOT deleted ORDER BY id`,
    [id],
  )
}

/** The place and the type of an item. */
export async function typeOf(database: Sequelize, id: number): Promise<TypeRow> {
  const found = await row<TypeRow>(
    database,
    'SELECT id, type_id, number, project_id FROM item WHERE id = $1',
    [id],
  )
  return found
}

/** Whether an item is another one or stands anywhere above it. A circle that is there already ends where it closes. */
export async function standsAbove(
  database: Sequelize,
  id: number,
  below: number,
): Promise<boolean> {
  const found = await row<{ above: boolean }>(
    database,
    `WITH RECURSIVE up (id) AS (
      SELECT $2::int
      UNION
      SELECT i.parent_id FROM up JOIN item i ON i.id = up.id WHERE i.parent_id IS NOT NULL)
    SELECT EXISTS (SELECT FROM up WHERE id = $1) AS above`,
    [id, below],
  )
  return found.above
}

/** A link of an item, and what is at its other end. */
export interface LinkRow extends ChildRow {
  readonly link: number
  readonly kind: number
  readonly out: boolean
}

/** The links of an item that hold now with items that are there and may be seen, by kind, in the order of their making. */
export async function linksOfItem(
  database: Sequelize,
  id: number,
  projects: readonly number[],
): Promise<LinkRow[]> {
  return await rows<LinkRow>(
    database,
    `SELECT l.id AS link, l.kind_number AS kind, l.from_id = $1 AS out,
      i.number, i.project_id, i.type_id, i.status_id, i.title
    FROM link l JOIN item i ON i.id = CASE WHEN l.from_id = $1 THEN l.to_id ELSE l.from_id END
    WHERE (l.from_id = $1 OR l.to_id = $1) AND l.valid_to = 'infinity'
      AND NOT i.deleted AND i.project_id = ANY($2::int[])
    ORDER BY l.kind_number, out DESC, l.id LIMIT 500`,
    [id, projects],
  )
}

/** Whether links of a kind lead from one item to another. */
export async function linksLead(
  database: Sequelize,
  kind: number,
  from: number,
  to: number,
): Promise<boolean> {
  const found = await row<{ found: boolean }>(
    database,
    `WITH RECURSIVE on_way (id) AS (
      SELECT $2::int
      UNION
      SELECT l.to_id FROM on_way w
      JOIN link l ON l.from_id = w.id AND l.kind_number = $1 AND l.valid_to = 'infinity')
    SELECT EXISTS (SELECT FROM on_way WHERE id = $3) AS found`,
    [kind, from, to],
  )
  return found.found
}
