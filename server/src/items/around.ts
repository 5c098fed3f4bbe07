import type { Sequelize } from 'sequelize'
import { row } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import { type ItemPlace, namedIds, namedPlaces } from './named.ts'

/** An item that is judged, or one that stands above it. */
export interface AboveRow {
  readonly id: number
  readonly project_id: number
  readonly number: number
  readonly type_id: number
  readonly parent_id: number | null
  readonly deleted: boolean
}

/** How many items of a type stand directly below another, how many of them are open, and the first that may be seen. */
export interface BelowRow {
  readonly parent_id: number
  readonly type_id: number
  readonly count: number
  readonly open: number
  readonly project_id: number | null
  readonly number: number | null
}

export interface PastRow {
  readonly id: number
  /** whether something was said since it came to the status it is in */
  readonly commented: boolean
  /** the numbers of the statuses it was ever in */
  readonly been: readonly number[]
  readonly description: string | null
}

/** What stands around items: above them and above the parents they are given, directly below them, and their pasts. */
export interface AroundRows {
  readonly above: readonly AboveRow[]
  readonly below: readonly BelowRow[]
  readonly past: readonly PastRow[]
  /** the place that was asked about; null where nothing stands there */
  readonly gap: GapRow | null
}

/** The place of an item in a project's hand order, with the nearest ones on both sides. */
export interface GapRow {
  readonly at: string
  readonly previous: string | null
  readonly next: string | null
}

/** Beside which item a place is sought, in the hand order of which project. */
export interface Beside extends ItemPlace {
  readonly order: number
}

/**
 * Reads what is around items in one statement.
 *
 * @param ids     the items that are judged
 * @param parents the places of parents they are given
 * @param visible the numbers of the projects that may be seen
 * @param beside  the item beside which one of them is put
 */
export async function readAround(
  database: Sequelize,
  ids: readonly number[],
  parents: readonly ItemPlace[],
  visible: readonly number[],
  beside: Beside | undefined,
): Promise<AroundRows> {
  const { bound, table, among } = namedIds(ids)
  const given = namedPlaces(parents, 6)
  // Left out where there are none, for of a list the database expects some.
  const parentIds = `UNION SELECT i.id FROM ${given.table}
        JOIN item i ON i.project_id = place.project AND i.number = place.number`
  const found = await row<AroundRows>(
    database,
    prepared(`WITH RECURSIVE concerned (id) AS (
        SELECT id FROM ${table}
        ${parents.length === 0 ? '' : parentIds}),
      up (id, project_id, number, type_id, parent_id, deleted) AS (
        SELECT i.id, i.project_id, i.number, i.type_id, i.parent_id, i.deleted
        FROM concerned c JOIN item i ON i.id = c.id
        UNION
        SELECT i.id, i.project_id, i.number, i.type_id, i.parent_id, i.deleted
        FROM up JOIN item i ON i.id = up.parent_id),
      below AS (
        SELECT parent_id, type_id, count(*)::int AS count, count(*) FILTER (WHERE phase < 2)::int AS open,
          (array_agg(project_id ORDER BY id) FILTER (WHERE project_id = ANY($2::int[])))[1] AS project_id,
          (array_agg(number ORDER BY id) FILTER (WHERE project_id = ANY($2::int[])))[1] AS number
        FROM item WHERE ${among('parent_id')} AND NOT deleted GROUP BY parent_id, type_id),
      past AS (
        SELECT i.id,
          EXISTS (SELECT FROM comment c
            WHERE c.item_id = i.id AND c.first_id IS NULL AND c.ended_by_id IS NULL AND c.at >= coalesce(
              (SELECT max(v.valid_to) FROM item_version v WHERE v.id = i.id AND v.status_id <> i.status_id),
              '-infinity')) AS commented,
          ARRAY(SELECT DISTINCT s.status_id FROM item_state s WHERE s.id = i.id) AS been,
          (SELECT t.description FROM item_text t
            WHERE t.item_id = i.id AND t.valid_to = 'infinity') AS description
        FROM item i WHERE ${among('i.id')}),
      gap AS (
        SELECT b.position AS at,
          (SELECT max(i.position) FROM item i WHERE i.project_id = $3 AND i.position < b.position) AS previous,
          (SELECT min(i.position) FROM item i WHERE i.project_id = $3 AND i.position > b.position) AS next
        FROM item b WHERE b.project_id = $4 AND b.number = $5 AND NOT b.deleted)
    SELECT
      (SELECT coalesce(json_agg(up), '[]') FROM up) AS above,
      (SELECT coalesce(json_agg(below), '[]') FROM below) AS below,
      (SELECT coalesce(json_agg(past), '[]') FROM past) AS past,
      (SELECT row_to_json(gap) FROM gap) AS gap`),
    [
      bound,
      visible,
      beside?.order ?? null,
      beside?.project ?? null,
      beside?.number ?? null,
      ...(parents.length === 0 ? [] : given.bound),
    ],
  )
  return found
}
