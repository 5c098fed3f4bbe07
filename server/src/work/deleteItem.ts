import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { changeItems } from '../items/write.ts'
import { announce } from '../sql/outbox.ts'
import { personAuthor } from '../workspace/author.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { holdEdition } from '../workspace/edition.ts'
import { judgeRead } from './judgeRead.ts'
import { findItem } from './storedItem.ts'

/** Deletes an item: it answers no question about the present any more, and its history stays. */
export async function deleteItem(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    const { row, id, project } = await findItem(database, actor, ref, 'FOR UPDATE')
    await judgeRead(database, actor, id, row, match)
    await changeItems(
      database,
      actor.world,
      [id],
      { deleted: true },
      personAuthor(actor.person),
      actor.now,
    )
    await announce(database, 'item', ref, { project: project.number }, actor.now)
  })
}
