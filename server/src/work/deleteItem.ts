import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { changeItems, tell } from '../items/write.ts'
import { personAuthor } from '../workspace/author.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { holdEdition } from '../workspace/edition.ts'
import { judgeRead } from './comments.ts'
import { find } from './storedItem.ts'

/** Deletes an item: it answers no question about the present any more, and its history stays. */

export async function remove(
  database: Sequelize,
  acting: ActorContext,
  ref: string,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    await holdEdition(database, acting.world)
    const { row, id, project } = await find(database, acting, ref, 'FOR UPDATE')
    await judgeRead(database, acting, id, row, match)
    await changeItems(
      database,
      acting.world.columns,
      [id],
      { deleted: true },
      personAuthor(acting.person),
      acting.now,
    )
    await tell(database, 'item', ref, { project: project.number }, acting.now)
  })
}
