import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** A link that holds now, by the ids of its ends. */
export interface LinkEnds {
  readonly kind: number
  readonly from_id: number
  readonly to_id: number
}

/**
 * The links of some kinds that leave items.
 *
 * @param onward the kinds whose links are followed from item to item to their ends
 */
export async function linksLeaving(
  database: Sequelize,
  kinds: readonly number[],
  onward: readonly number[],
  ids: readonly number[],
): Promise<LinkEnds[]> {
  return await rows<LinkEnds>(
    database,
    `WITH RECURSIVE met (kind, id) AS (
      SELECT kind, id FROM unnest($1::int[]) AS kind, unnest($3::int[]) AS id
      UNION
      SELECT m.kind, l.to_id FROM met m
      JOIN link l ON l.from_id = m.id AND l.kind_number = m.kind AND l.valid_to = 'infinity'
      WHERE m.kind = ANY($2::int[]))
    SELECT l.kind_number AS kind, l.from_id, l.to_id FROM met m
    JOIN link l ON l.from_id = m.id AND l.kind_number = m.kind AND l.valid_to = 'infinity'`,
    [kinds, onward, ids],
  )
}
