import { heldBefore } from '@bluestem/core/merges'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { byKinds } from '../workspace/author.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { writeVersions } from './write.ts'

/** Which labels or components, by number, became which one, and when. */
export interface MergedNumbers {
  readonly column: 'labels' | 'components'
  readonly into: number
  readonly from: readonly number[]
  readonly at: Date
}

interface HeldRow {
  readonly id: number
  readonly now: readonly number[]
  readonly before: readonly number[]
}

/** How many items are written by one statement. */
const atOnce = 500

/** Items that a merge changed and that still hold what it gave them, locked, with what they held just before it. */
async function changedByMerge(
  database: Sequelize,
  { column, into, from, at }: MergedNumbers,
): Promise<HeldRow[]> {
  return await rows<HeldRow>(
    database,
    `WITH held AS (SELECT id FROM item WHERE ${column} @> ARRAY[$1::int] AND NOT deleted ORDER BY id FOR UPDATE)
    SELECT DISTINCT ON (i.id) i.id, i.${column} AS now, v.${column} AS before
    FROM held JOIN item i ON i.id = held.id JOIN item_version v ON v.id = i.id
    JOIN item_state s ON s.id = i.id AND s.valid_from = v.valid_to
    WHERE v.valid_to >= $3 AND v.${column} && $2::int[] AND s.by_kind = $4::smallint
    ORDER BY i.id, v.valid_to`,
    [into, from, at, byKinds.indexOf('merge')],
  )
}

/** Lets items hold again what they held before a merge; `changed` stays, as it did with the merge. @returns how many */
export async function undoMergeOfItems(
  database: Sequelize,
  { world, person, now }: ActorContext,
  merged: MergedNumbers,
): Promise<number> {
  const found = await changedByMerge(database, merged)
  const author = { kind: 'merge', number: person.number } as const
  const { column, into, from } = merged
  for (let at = 0; at < found.length; at += atOnce) {
    const batch = found.slice(at, at + atOnce)
    const held = batch.map((entry) => ({
      id: entry.id,
      held: heldBefore(entry.now, entry.before, into, from),
    }))
    await writeVersions(
      database,
      world.columns,
      [
        `${column} = (SELECT w.held FROM jsonb_to_recordset($5::jsonb) AS w(id int, held int[]) WHERE w.id = i.id)`,
      ],
      [
        batch.map(({ id }) => id),
        now,
        byKinds.indexOf(author.kind),
        author.number,
        JSON.stringify(held),
      ],
      author,
    )
  }
  return found.length
}
