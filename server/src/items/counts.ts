import type { Sequelize } from 'sequelize'
import { row, rows } from '../database/connect.ts'

/** How many items of some projects hold any of several labels or components, each item once. */
export async function countHolding(
  database: Sequelize,
  column: 'labels' | 'components',
  numbers: readonly number[],
  projects: readonly number[],
): Promise<number> {
  const found = await row<{ count: number }>(
    database,
    `SELECT count(*) AS count FROM item
    WHERE ${column} && $1::int[] AND NOT deleted AND project_id = ANY($2::int[])`,
    [numbers, projects],
  )
  return found.count
}

/** How many items some projects have in each phase. */
export async function countByPhase(
  database: Sequelize,
  projects: readonly number[],
): Promise<{ readonly project_id: number; readonly phase: number; readonly count: number }[]> {
  return await rows(
    database,
    `SELECT project_id, phase, count(*) AS count FROM item
    WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2`,
    [projects],
  )
}

/** The type that the latest hundred items of a project have most often. */
export async function usualType(database: Sequelize, project: number): Promise<number | undefined> {
  const [found] = await rows<{ type_id: number }>(
    database,
    `SELECT type_id
    FROM (SELECT type_id FROM item WHERE project_id = $1 ORDER BY number DESC LIMIT 100) latest
    GROUP BY type_id ORDER BY count(*) DESC, type_id LIMIT 1`,
    [project],
  )
  return found?.type_id
}

/** How many items of a project and type are in a status and at a priority, and when one of them last changed. */
export interface HoldingRow {
  readonly project_id: number
  readonly type_id: number
  readonly status_id: number
  readonly priority_id: number | null
  readonly count: number
  readonly last: Date
}

export async function countHoldings(
  database: Sequelize,
  projects: readonly number[],
): Promise<HoldingRow[]> {
  return await rows<HoldingRow>(
    database,
    `SELECT project_id, type_id, status_id, priority_id, count(*) AS count, max(changed_at) AS last
    FROM item WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2, 3, 4`,
    [projects],
  )
}

/** A column of a field, and whether it holds several values. */
export interface FieldColumn {
  readonly column: string
  readonly several: boolean
}

/** How many items hold something in each of some columns, and, under `…_last`, when one of them last changed. */
export async function countFilled(
  database: Sequelize,
  fields: readonly FieldColumn[],
  projects: readonly number[],
): Promise<Readonly<Record<string, number | Date | null>>> {
  const counts = fields.flatMap(({ column, several }) => {
    const filled = several ? `cardinality(${column}) > 0` : `${column} IS NOT NULL`
    return [
      `count(*) FILTER (WHERE ${filled}) AS ${column}`,
      `max(changed_at) FILTER (WHERE ${filled}) AS ${column}_last`,
    ]
  })
  const found = await row<Record<string, number | Date | null>>(
    database,
    `SELECT ${counts.join(', ')} FROM item WHERE NOT deleted AND project_id = ANY($1::int[])`,
    [projects],
  )
  return found
}

/** How many items of a project and type hold each option of a field. */
export async function countOptions(
  database: Sequelize,
  { column, several }: FieldColumn,
  projects: readonly number[],
): Promise<{ project_id: number; type_id: number; option: number; count: number }[]> {
  const options = several ? `unnest(${column})` : `(VALUES (${column}))`
  return await rows(
    database,
    `SELECT project_id, type_id, held.option, count(*) AS count
    FROM item, LATERAL ${options} AS held (option)
    WHERE held.option IS NOT NULL AND NOT deleted AND project_id = ANY($1::int[])
    GROUP BY 1, 2, 3`,
    [projects],
  )
}

/** How many items hold each label, component or kind of link, and when one of them last changed. */
export async function countInList(
  database: Sequelize,
  column: 'labels' | 'components' | 'link_kinds',
  projects: readonly number[],
): Promise<{ held: number; count: number; last: Date }[]> {
  return await rows(
    database,
    `SELECT held, count(*) AS count, max(changed_at) AS last FROM item, unnest(${column}) AS held
    WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1`,
    [projects],
  )
}

/** How often each move of a type was made since a moment, not by an edition. */
export async function countMoves(
  database: Sequelize,
  type: number,
  since: Date,
  projects: readonly number[],
): Promise<{ before: number; status_id: number; count: number }[]> {
  return await rows(
    database,
    `SELECT before, status_id, count(*) AS count
    FROM (
      SELECT status_id, valid_from, by_kind,
        lag(status_id) OVER (PARTITION BY id ORDER BY valid_from) AS before
      FROM item_state WHERE type_id = $1 AND valid_to > $2 AND project_id = ANY($3::int[])) state
    WHERE before <> status_id AND by_kind <> 2 AND valid_from >= $2 GROUP BY 1, 2`,
    [type, since, projects],
  )
}

/** What items hold that were written by transactions which still ran at a moment, or began later. */
export async function heldSince(
  database: Sequelize,
  oldest: string,
): Promise<Omit<HoldingRow, 'count' | 'last'>[]> {
  return await rows(
    database,
    `SELECT DISTINCT i.project_id, i.type_id, i.status_id, i.priority_id
    FROM outbox o
    JOIN project p ON p.code = split_part(o.subject, '/', 1)
    JOIN item i ON i.project_id = p.id AND i.number = split_part(o.subject, '/', 2)::int
    WHERE o.kind = 'item' AND o.xid >= $1::text::xid8 AND NOT i.deleted`,
    [oldest],
  )
}
