import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** An item that is in an iteration at one moment, or was at an earlier one; told as of the later. */
export interface PlannedRow {
  readonly project_id: number
  readonly number: number
  readonly phase: number
  readonly estimate: string | null
  readonly inside: boolean
  readonly committed: boolean
}

/**
 * The items of an iteration just before a moment, and those it had at the moment it was started, in projects that may be seen.
 *
 * @param started when it was started; null where it was not
 * @param until   the moment as of which it is told
 */
export async function plannedRows(
  database: Sequelize,
  iteration: number,
  projects: readonly number[],
  started: Date | null,
  until: Date,
): Promise<PlannedRow[]> {
  return await rows<PlannedRow>(
    database,
    `WITH named AS (SELECT id FROM item WHERE iteration_id = $1 UNION SELECT id FROM item_version WHERE iteration_id = $1),
      begun AS (SELECT s.id FROM named JOIN item_state s USING (id)
        WHERE s.iteration_id = $1 AND NOT s.deleted AND s.valid_from <= $3::timestamptz AND s.valid_to > $3::timestamptz)
    SELECT s.project_id, s.number, s.phase, s.estimate::text AS estimate,
      s.iteration_id IS NOT DISTINCT FROM $1 AND NOT s.deleted AS inside, begun.id IS NOT NULL AS committed
    FROM named JOIN item_state s USING (id) LEFT JOIN begun USING (id)
    WHERE s.valid_from < $4::timestamptz AND s.valid_to >= $4::timestamptz AND s.project_id = ANY($2::int[])
      AND (begun.id IS NOT NULL OR (s.iteration_id = $1 AND NOT s.deleted))
    ORDER BY s.project_id, s.number`,
    [iteration, projects, started, until],
  )
}

/** How many items iterations have, and how many of them are done; of one that is finished, how it was just before. */
export async function countByIteration(
  database: Sequelize,
  projects: readonly number[],
): Promise<{ iteration_id: number; items: number; done: number }[]> {
  return await rows(
    database,
    `SELECT s.iteration_id, count(*)::int AS items, (count(*) FILTER (WHERE s.phase = 2))::int AS done
    FROM iteration JOIN item_state s ON s.iteration_id = iteration.id
      AND s.valid_from < coalesce(finished_at, 'infinity') AND s.valid_to >= coalesce(finished_at, 'infinity')
    WHERE NOT s.deleted AND s.project_id = ANY($1::int[]) GROUP BY 1`,
    [projects],
  )
}

/** Whether any item is or ever was in an iteration. */
export async function namesIteration(database: Sequelize, iteration: number): Promise<boolean> {
  const [found] = await rows<{ named: boolean }>(
    database,
    `SELECT EXISTS (SELECT FROM item WHERE iteration_id = $1)
      OR EXISTS (SELECT FROM item_version WHERE iteration_id = $1) AS named`,
    [iteration],
  )
  return found!.named
}
