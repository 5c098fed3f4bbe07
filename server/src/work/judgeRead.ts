import type { Sequelize } from 'sequelize'
import type { ItemRow } from '../items/row.ts'
import { stale } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { changedSince } from './history.ts'
import { stateMeant } from './storedItem.ts'

/** A state that only an edition or a merge rewrote since it was read is nobody's change. @throws Problem 412 with what others changed */
export async function judgeRead(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  row: ItemRow,
  match: string,
): Promise<void> {
  const meant = stateMeant(match)
  if (meant === undefined || meant === row.row_from.getTime()) return
  const changed = await changedSince(database, actor, id, meant)
  if (
    changed.length === 0 ||
    changed.some((entry) => entry.by.kind !== 'edition' && entry.by.kind !== 'merge')
  )
    throw stale(changed)
}
