import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** How many items of some projects hold any of several labels or components, each item once. */
export async function countHolding(
  database: Sequelize,
  column: 'labels' | 'components',
  numbers: readonly number[],
  projects: readonly number[],
): Promise<number> {
  const [found] = await rows<{ count: number }>(
    database,
    `SELECT count(*) AS count FROM item
    WHERE ${column} && $1::int[] AND NOT deleted AND project_id = ANY($2::int[])`,
    [numbers, projects],
  )
  return found!.count
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
