import type { Sequelize } from 'sequelize'
import type { BelowInProject } from '@bluestem/core/tree'
import { rows } from '../database/connect.ts'

/** An item in the tree of a project. */
export interface TreeItemRow {
  readonly id: number
  readonly project_id: number
  readonly number: number
  readonly parent_id: number | null
  readonly type_id: number
  readonly status_id: number
  readonly assignee_id: number | null
  readonly title: string
  readonly on_hold: boolean
  readonly directly: number
  readonly below: readonly BelowInProject[]
  readonly waits: readonly {
    readonly kind: number
    readonly project_id: number
    readonly number: number
  }[]
}

export interface TreeAsked {
  readonly project: number
  /** the item below which to begin; null for the top */
  readonly above: number | null
  readonly depth: number
  /** the projects that may be seen */
  readonly visible: readonly number[]
  /** the moment before which what is finished is left out; null to leave out nothing */
  readonly since: Date | null
  /** the numbers of the link kinds that make one item wait for another */
  readonly waiting: readonly number[]
  readonly limit: number
}

/** What is in sight: what is open, was finished since a moment, or has something open below it. */
const inSight = (item: string): string =>
  `($3::timestamptz IS NULL OR ${item}.phase < 2 OR coalesce(${item}.done_at, ${item}.row_from) >= $3::timestamptz
    OR EXISTS (SELECT FROM item open WHERE open.parent_id = ${item}.id AND NOT open.deleted AND open.phase < 2))`

/** Where the top of a project begins: at what stands below nothing that is there, or below an item of another project. */
const atTop = `i.project_id = $1 AND NOT EXISTS (SELECT FROM item p
    WHERE p.id = i.parent_id AND p.project_id = $1 AND NOT p.deleted)`

const shown = (isTop: boolean): string => `
  begun AS (SELECT i.id FROM item i WHERE ${isTop ? atTop : 'i.parent_id = $1'}
    AND NOT i.deleted AND i.project_id = ANY($2::int[])),
  shown (id, depth) AS (
    SELECT id, 1 FROM begun JOIN item i USING (id) WHERE ${inSight('i')}
    UNION ALL
    SELECT i.id, shown.depth + 1 FROM shown JOIN item i ON i.parent_id = shown.id
    WHERE shown.depth < $4 AND NOT i.deleted AND i.project_id = ANY($2::int[]) AND ${inSight('i')})`

/** Everything below an item that may be seen, at all levels, by project. */
const below = `LATERAL (
    WITH RECURSIVE under (id) AS (
      SELECT c.id FROM item c WHERE c.parent_id = i.id AND NOT c.deleted AND c.project_id = ANY($2::int[])
      UNION
      SELECT c.id FROM under JOIN item c ON c.parent_id = under.id WHERE NOT c.deleted AND c.project_id = ANY($2::int[]))
    SELECT coalesce(jsonb_agg(jsonb_build_object('project', project_id, 'items', items, 'done', done,
        'all', "all"::text, 'finished', finished::text, 'estimated', estimated)), '[]') AS below
    FROM (SELECT u.project_id, count(*) AS items, count(*) FILTER (WHERE u.phase = 2) AS done,
        coalesce(sum(u.estimate), 0) AS "all", coalesce(sum(u.estimate) FILTER (WHERE u.phase = 2), 0) AS finished,
        count(u.estimate) > 0 AS estimated
      FROM under JOIN item u USING (id) GROUP BY u.project_id) by_project) sums`

/** Open items that may be seen and that an item waits for. */
const waits = `ARRAY(SELECT jsonb_build_object('kind', l.kind_number, 'project_id', w.project_id, 'number', w.number)
    FROM link l JOIN item w ON w.id = l.to_id
    WHERE l.from_id = i.id AND l.valid_to = 'infinity' AND l.kind_number = ANY($5::int[])
      AND w.phase < 2 AND NOT w.deleted AND w.project_id = ANY($2::int[])
    ORDER BY l.id LIMIT 5)`

/** The items of a tree from one place on, in hand order, as many levels as are asked for. */
export async function treeRows(
  database: Sequelize,
  { project, above, depth, visible, since, waiting, limit }: TreeAsked,
): Promise<TreeItemRow[]> {
  return await rows<TreeItemRow>(
    database,
    `WITH RECURSIVE ${shown(above === null)}
    SELECT i.id, i.project_id, i.number, i.parent_id, i.type_id, i.status_id, i.assignee_id, i.title, i.on_hold,
      (SELECT count(*)::int FROM item c WHERE c.parent_id = i.id AND NOT c.deleted
        AND c.project_id = ANY($2::int[]) AND ${inSight('c')}) AS directly,
      sums.below, ${waits} AS waits
    FROM (SELECT * FROM shown ORDER BY depth LIMIT $6) shown JOIN item i USING (id), ${below}
    ORDER BY shown.depth, i.position, i.id`,
    [above ?? project, visible, since, depth, waiting, limit],
  )
}

/** How many items at the place where a tree begins are left out, since they were finished long ago. */
export async function foldedCount(
  database: Sequelize,
  { project, above, visible, since }: TreeAsked,
): Promise<number> {
  if (since === null) return 0
  const [found] = await rows<{ count: number }>(
    database,
    `SELECT count(*)::int AS count FROM item i WHERE ${above === null ? atTop : 'i.parent_id = $1'}
    AND NOT i.deleted AND i.project_id = ANY($2::int[]) AND NOT ${inSight('i')}`,
    [above ?? project, visible, since],
  )
  return found!.count
}
