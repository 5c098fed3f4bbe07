import type { Sequelize } from 'sequelize'
import type { BelowInProject } from '@bluestem/core/tree'
import { row, rows } from '../database/connect.ts'
import {
  atMoment,
  beginsAt,
  Binds,
  permitted,
  type QueryContext,
  stateTable,
} from '../sql/statement.ts'

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
  /** the moment before which what is finished is left out; null to leave out nothing */
  readonly since: Date | null
  /** the numbers of the link kinds that make one item wait for another */
  readonly waiting: readonly number[]
  readonly limit: number
}

/** The states that a tree is made of. Of the past, which no index orders by parent, those that can stand in it are gathered once. */
function states(queryContext: QueryContext, binds: Binds, project: number): string {
  const { asOf } = queryContext
  const place = binds.bind(project, 'int')
  const part = asOf ? ` AND (i.project_id = ${place} OR i.parent_id IS NOT NULL)` : ''
  return `at AS ${asOf ? '' : 'NOT '}MATERIALIZED (SELECT i.id, i.number, i.project_id, i.parent_id, i.type_id, i.status_id,
      i.assignee_id, i.on_hold, i.phase, i.estimate, i.position, coalesce(i.done_at, ${beginsAt(queryContext, 'i')}) AS ended
    FROM ${stateTable(queryContext)} i WHERE ${permitted(queryContext, binds, 'i')}${atMoment(queryContext, binds, 'i')}${part})`
}

/** What of a tree is in sight, as a condition: what is open, was finished since a moment, or has something open right below it. */
const inSight = (binds: Binds, item: string, since: Date | null): string =>
  since === null
    ? 'true'
    : `(${item}.phase < 2 OR ${item}.ended >= ${binds.instant(since.getTime())} OR ${item}.id IN (SELECT parent_id FROM lively))`

/** Where a tree begins: below an item, or at what stands below nothing that is there, or below an item of another project. */
function begun(binds: Binds, { project, above }: TreeAsked): string {
  if (above !== null)
    return `begun AS (SELECT * FROM at WHERE parent_id = ${binds.bind(above, 'int')})`
  const place = binds.bind(project, 'int')
  return `begun AS (SELECT i.* FROM at i LEFT JOIN at p ON p.id = i.parent_id AND p.project_id = ${place}
    WHERE i.project_id = ${place} AND p.id IS NULL)`
}

const lively = `lively AS MATERIALIZED (SELECT DISTINCT parent_id FROM at WHERE phase < 2 AND parent_id IS NOT NULL)`

/** Everything below the items that are shown, at all levels, each once for every one of these, summed up by project. */
const sums = `under (origin, id) AS (
    SELECT s.id, c.id FROM cut s JOIN at c ON c.parent_id = s.id
    UNION SELECT u.origin, c.id FROM under u JOIN at c ON c.parent_id = u.id),
  by_project AS (SELECT u.origin, i.project_id, count(*) AS items, count(*) FILTER (WHERE i.phase = 2) AS done,
      coalesce(sum(i.estimate), 0) AS "all", coalesce(sum(i.estimate) FILTER (WHERE i.phase = 2), 0) AS finished,
      count(i.estimate) > 0 AS estimated
    FROM under u JOIN at i ON i.id = u.id GROUP BY u.origin, i.project_id),
  sums AS (SELECT origin, jsonb_agg(jsonb_build_object('project', project_id, 'items', items, 'done', done,
      'all', "all"::text, 'finished', finished::text, 'estimated', estimated)) AS below
    FROM by_project GROUP BY origin)`

/** Open items that may be seen and that an item waits for. */
function waits(queryContext: QueryContext, binds: Binds, waiting: readonly number[]): string {
  const moment = binds.instant(queryContext.moment)
  const holds = queryContext.asOf
    ? `l.valid_from <= ${moment} AND l.valid_to > ${moment}`
    : `l.valid_to = 'infinity'`
  return `ARRAY(SELECT jsonb_build_object('kind', l.kind_number, 'project_id', w.project_id, 'number', w.number)
    FROM link l JOIN ${stateTable(queryContext)} w ON w.id = l.to_id
    WHERE l.from_id = i.id AND ${holds} AND l.kind_number = ANY(${binds.bind(waiting, 'int[]')})
      AND w.phase < 2 AND ${permitted(queryContext, binds, 'w')}${atMoment(queryContext, binds, 'w')}
    ORDER BY l.id LIMIT 5)`
}

/** The title of an item then, or now. */
function titleOf(queryContext: QueryContext, binds: Binds): string {
  const moment = binds.instant(queryContext.moment)
  return queryContext.asOf
    ? `(SELECT t.title FROM item_text t WHERE t.item_id = i.id AND t.valid_from <= ${moment} AND t.valid_to > ${moment})`
    : `(SELECT t.title FROM item t WHERE t.id = i.id)`
}

/** The items of a tree from one place on, in hand order, as many levels as are asked for, as of the moment of the context. */
export async function treeRows(
  database: Sequelize,
  queryContext: QueryContext,
  asked: TreeAsked,
): Promise<TreeItemRow[]> {
  const binds = new Binds()
  const { project, depth, since, waiting, limit } = asked
  const { sql, bind } = binds.statement(`WITH RECURSIVE ${states(queryContext, binds, project)},
    ${lively},
    ${begun(binds, asked)},
    shown (id, depth) AS (
      SELECT b.id, 1 FROM begun b WHERE ${inSight(binds, 'b', since)}
      UNION SELECT c.id, s.depth + 1 FROM shown s JOIN at c ON c.parent_id = s.id
      WHERE s.depth < ${binds.bind(depth, 'int')} AND ${inSight(binds, 'c', since)}),
    cut AS MATERIALIZED (SELECT id, min(depth) AS depth FROM shown GROUP BY id ORDER BY 2 LIMIT ${binds.bind(limit, 'int')}),
    direct AS (SELECT c.parent_id, count(*)::int AS directly FROM cut s JOIN at c ON c.parent_id = s.id
      WHERE ${inSight(binds, 'c', since)} GROUP BY c.parent_id),
    ${sums}
    SELECT i.id, i.project_id, i.number, i.parent_id, i.type_id, i.status_id, i.assignee_id, i.on_hold,
      ${titleOf(queryContext, binds)} AS title, coalesce(direct.directly, 0) AS directly,
      coalesce(sums.below, '[]') AS below, ${waits(queryContext, binds, waiting)} AS waits
    FROM cut JOIN at i USING (id) LEFT JOIN direct ON direct.parent_id = i.id LEFT JOIN sums ON sums.origin = i.id
    ORDER BY cut.depth, i.position, i.id`)
  return await rows<TreeItemRow>(database, sql, bind)
}

/** How many items at the place where a tree begins are left out, since they were finished long ago. */
export async function foldedCount(
  database: Sequelize,
  queryContext: QueryContext,
  asked: TreeAsked,
): Promise<number> {
  if (asked.since === null) return 0
  const binds = new Binds()
  const { sql, bind } =
    binds.statement(`WITH ${states(queryContext, binds, asked.project)}, ${lively}, ${begun(binds, asked)}
    SELECT count(*)::int AS count FROM begun i WHERE NOT ${inSight(binds, 'i', asked.since)}`)
  const found = await row<{ count: number }>(database, sql, bind)
  return found.count
}
