import { orderBetween } from '@bluestem/core/definitions'
import type { EditItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import type { Project } from '../workspace/world.ts'
import { holdProject, nextPosition } from '../items/place.ts'
import { findItem } from './storedItem.ts'

/** The key of a place in hand order: right after one neighbour, or right before the other where there is none; what others put between the two meanwhile stays beside it. */
export async function placed(
  database: Sequelize,
  actor: ActorContext,
  given: EditItem,
  project: Project,
): Promise<string | undefined> {
  if (!given.position) return undefined
  await holdProject(database, project.number)
  const positionOf = async (ref: string | undefined): Promise<string | null> =>
    ref ? ((await findItem(database, actor, ref)).row['position'] as string) : null
  const [after, before] = [
    await positionOf(given.position.after),
    await positionOf(given.position.before),
  ]
  if (after !== null)
    return orderBetween(after, await nextPosition(database, project.number, 'min', after))
  if (before !== null)
    return orderBetween(await nextPosition(database, project.number, 'max', before), before)
  return orderBetween(await nextPosition(database, project.number, 'max', null), null)
}
