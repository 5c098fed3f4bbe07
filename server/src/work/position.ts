import { orderBetween } from '@bluestem/core/definitions'
import type { EditItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import type { Beside, GapRow } from '../items/around.ts'
import { lastPosition } from '../items/place.ts'
import { notFound } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Project } from '../workspace/living.ts'
import { placeOf } from './storedItem.ts'

type Position = NonNullable<EditItem['position']>

/** The item beside which a place is sought; undefined for the end of all. @throws Problem 404 for one that may not be seen */
export function besideOf(
  actor: ActorContext,
  project: Project,
  { after, before }: Position,
): Beside | undefined {
  const neighbour = after ?? before
  if (!neighbour) return undefined
  const place = placeOf(actor, neighbour)
  return { order: project.number, project: place.project.number, number: place.number }
}

/**
 * The key of a place in hand order: right after one neighbour, or right before the other where there is none; what others put between
 * the two meanwhile stays beside it. The project's order is held already.
 */
export async function placed(
  database: Sequelize,
  project: Project,
  { after, before }: Position,
  gap: GapRow | null,
): Promise<string> {
  const neighbour = after ?? before
  if (!neighbour) return orderBetween(await lastPosition(database, project.number), null)
  if (!gap) throw notFound(`item ${neighbour}`)
  return after ? orderBetween(gap.at, gap.next) : orderBetween(gap.previous, gap.at)
}
