import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { byKinds } from '../workspace/author.ts'

/** An item that others changed since somebody last looked at it. */
export interface NoticeRow {
  readonly id: number
  readonly project_id: number
  readonly number: number
  readonly type_id: number
  readonly status_id: number
  readonly title: string
  /** since when what changed is new */
  readonly since: Date
  /** how many such items there are in all */
  readonly total: number
}

/** Authors whose changes are nobody's news: they change what things are called, for all at once. */
const silent = ['edition', 'merge'] as const

/**
 * The items that somebody hears of, because they follow them or they are theirs, with a change by somebody else since they last
 * looked; the latest change first.
 *
 * @param earliest since when changes of items that are theirs are told, where they never looked
 */
export async function noticeRows(
  database: Sequelize,
  person: number,
  projects: readonly number[],
  earliest: Date,
  most: number,
): Promise<NoticeRow[]> {
  return await rows<NoticeRow>(
    database,
    `WITH heard AS (
      SELECT item_id, since FROM follower WHERE person_id = $1
      UNION ALL SELECT id, $3::timestamptz(3) FROM item WHERE assignee_id = $1),
    known AS (
      SELECT h.item_id, greatest(min(h.since), max(l.at)) AS since
      FROM heard h LEFT JOIN look l ON l.person_id = $1 AND l.item_id = h.item_id GROUP BY h.item_id)
    SELECT i.id, i.project_id, i.number, i.type_id, i.status_id, i.title, k.since, count(*) OVER ()::int AS total
    FROM known k JOIN item i ON i.id = k.item_id AND i.row_from > k.since
    WHERE NOT i.deleted AND i.project_id = ANY($2::int[]) AND EXISTS (
      SELECT FROM item_state s WHERE s.id = i.id AND s.valid_from > k.since
        AND s.by_kind <> ALL($4::smallint[]) AND NOT (s.by_kind = 0 AND s.by_id = $1))
    ORDER BY i.row_from DESC, i.id LIMIT $5`,
    [person, projects, earliest, silent.map((kind) => byKinds.indexOf(kind)), most],
  )
}

/** Remembers that somebody looked at items now. */
export async function rememberLooks(
  database: Sequelize,
  person: number,
  items: readonly number[],
  at: Date,
): Promise<void> {
  await rows(
    database,
    `INSERT INTO look (person_id, item_id, at) SELECT $1, id, $3 FROM unnest($2::int[]) AS id
    ON CONFLICT (person_id, item_id) DO UPDATE SET at = greatest(look.at, excluded.at) RETURNING item_id`,
    [person, items, at],
  )
}

/** Makes people hear of an item from now on; who does already stays as they are. */
export async function addFollowers(
  database: Sequelize,
  item: number,
  people: readonly number[],
  at: Date,
): Promise<void> {
  await rows(
    database,
    `INSERT INTO follower (item_id, person_id, since) SELECT $1, id, $3 FROM unnest($2::int[]) AS id
    ON CONFLICT DO NOTHING RETURNING item_id`,
    [item, people, at],
  )
}

/**
 * Gives open items the followers they would have: whoever raised them, has them or said something. All of those looked at them last at
 * one moment.
 */
export async function followOpenItems(database: Sequelize, lookedAt: Date): Promise<void> {
  await rows(
    database,
    `WITH heard AS (
      SELECT id AS item_id, raised_by AS person_id, created_at AS since FROM item WHERE phase < 2 AND raised_by IS NOT NULL
      UNION ALL SELECT id, assignee_id, created_at FROM item WHERE phase < 2 AND assignee_id IS NOT NULL
      UNION ALL SELECT c.item_id, c.by_id, c.at FROM comment c JOIN item i ON i.id = c.item_id AND i.phase < 2),
    followed AS (
      INSERT INTO follower (item_id, person_id, since)
      SELECT item_id, person_id, min(since) FROM heard GROUP BY item_id, person_id RETURNING item_id, person_id)
    INSERT INTO look (person_id, item_id, at) SELECT person_id, item_id, $1 FROM followed RETURNING item_id`,
    [lookedAt],
  )
}
