import type { Sequelize } from 'sequelize'
import { row, rows } from '../database/connect.ts'

/** What items are planned into: the table that holds it, and the property of an item that names it. */
export type SpanKind = 'iteration' | 'release'

/** An item that is in a span at one moment, or was at an earlier one; told as of the later. */
export interface PlannedRow {
  readonly project_id: number
  readonly number: number
  readonly phase: number
  readonly estimate: string | null
  readonly inside: boolean
  readonly committed: boolean
}

/**
 * The items of a span just before a moment, and those it had at the moment it was started, in projects that may be seen.
 *
 * @param started when it was started; null where it was not
 * @param until   the moment as of which it is told
 */
export async function plannedRows(
  database: Sequelize,
  kind: SpanKind,
  span: number,
  projects: readonly number[],
  started: Date | null,
  until: Date,
): Promise<PlannedRow[]> {
  const column = `${kind}_id`
  return await rows<PlannedRow>(
    database,
    `WITH named AS (SELECT id FROM item WHERE ${column} = $1 UNION SELECT id FROM item_version WHERE ${column} = $1),
      begun AS (SELECT s.id FROM named JOIN item_state s USING (id)
        WHERE s.${column} = $1 AND NOT s.deleted AND s.valid_from <= $3::timestamptz AND s.valid_to > $3::timestamptz)
    SELECT s.project_id, s.number, s.phase, s.estimate::text AS estimate,
      s.${column} IS NOT DISTINCT FROM $1 AND NOT s.deleted AS inside, begun.id IS NOT NULL AS committed
    FROM named JOIN item_state s USING (id) LEFT JOIN begun USING (id)
    WHERE s.valid_from < $4::timestamptz AND s.valid_to >= $4::timestamptz AND s.project_id = ANY($2::int[])
      AND (begun.id IS NOT NULL OR (s.${column} = $1 AND NOT s.deleted))
    ORDER BY s.project_id, s.number`,
    [span, projects, started, until],
  )
}

/** How many items spans have, and how many of them are done; of one that is finished, how it was just before. */
export async function countBySpan(
  database: Sequelize,
  kind: SpanKind,
  projects: readonly number[],
): Promise<ReadonlyMap<number, { readonly items: number; readonly done: number }>> {
  const found = await rows<{ span: number; items: number; done: number }>(
    database,
    `SELECT span.id AS span, count(*)::int AS items, (count(*) FILTER (WHERE s.phase = 2))::int AS done
    FROM ${kind} span JOIN item_state s ON s.${kind}_id = span.id
      AND s.valid_from < coalesce(span.finished_at, 'infinity') AND s.valid_to >= coalesce(span.finished_at, 'infinity')
    WHERE NOT s.deleted AND s.project_id = ANY($1::int[]) GROUP BY 1`,
    [projects],
  )
  return new Map(found.map(({ span, items, done }) => [span, { items, done }]))
}

/** Whether any item is or ever was in a span. */
export async function namesSpan(
  database: Sequelize,
  kind: SpanKind,
  span: number,
): Promise<boolean> {
  const found = await row<{ named: boolean }>(
    database,
    `SELECT EXISTS (SELECT FROM item WHERE ${kind}_id = $1)
      OR EXISTS (SELECT FROM item_version WHERE ${kind}_id = $1) AS named`,
    [span],
  )
  return found.named
}

/** Of which of several projects items are in a release now. */
export async function projectsInRelease(
  database: Sequelize,
  release: number,
  projects: readonly number[],
): Promise<number[]> {
  const found = await rows<{ project_id: number }>(
    database,
    `SELECT DISTINCT project_id FROM item WHERE release_id = $1 AND NOT deleted AND project_id = ANY($2::int[])`,
    [release, projects],
  )
  return found.map(({ project_id }) => project_id)
}
