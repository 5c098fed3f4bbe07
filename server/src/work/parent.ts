import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { findItem } from './storedItem.ts'
import { mayStandBelow } from '@bluestem/core/definitions'
import { lockTree } from '../sql/locks.ts'
import { standsAbove, typeOf, typesBelow } from '../items/tree.ts'
import { refused } from '../problems/problem.ts'
import { refOf } from '../items/row.ts'
import { visibleProjects } from '../workspace/visibility.ts'

export async function parentId(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<number> {
  return (await findItem(database, actor, ref)).id
}

/** A parent is of a higher tier, and nothing stands below itself. */
export async function judgeParent(
  database: Sequelize,
  { world }: ActorContext,
  id: number | null,
  type: string,
  parent: number,
): Promise<void> {
  // Two moves at once could close a circle that neither sees.
  await lockTree(database)
  const above = await typeOf(database, parent)
  const tier = (one: string): number => world.document.types[one]?.tier ?? 0
  const parentType = world.numbers.identity('type', above['type_id'] as number)!
  const [mine, theirs] = [
    world.document.types[type]!.title,
    world.document.types[parentType]!.title,
  ]
  if (tier(parentType) <= tier(type))
    throw refused(
      `${refOf(world, above)} is a ${theirs}, of tier ${tier(parentType)}; what stands above a ${mine} (tier ${tier(type)}) must be of a higher tier.`,
      [{ pointer: '/parent', message: 'The parent must be of a higher tier.' }],
    )
  if (!mayStandBelow(world.document, type, parentType)) {
    const allowed = (world.document.types[parentType]!.below ?? []).map(
      (one) => world.document.types[one]?.title ?? one,
    )
    throw refused(
      `Below ${refOf(world, above)}, a ${theirs}, only ${allowed.join(', ') || 'nothing'} may stand, no ${mine}.`,
      [
        {
          pointer: '/parent',
          message: 'This type may not stand below that one.',
          expected: allowed.join(', '),
        },
      ],
    )
  }
  if (id !== null && (await standsAbove(database, id, parent)))
    throw refused('An item cannot stand below itself, nor below what stands below it.', [
      { pointer: '/parent', message: 'An item cannot stand below itself.' },
    ])
}

/** What stands below an item fits below its new type too. @throws Problem 409 that names the first that does not */
export async function judgeBelow(
  database: Sequelize,
  { world, person }: ActorContext,
  id: number,
  type: string,
): Promise<void> {
  await lockTree(database)
  const children = await typesBelow(database, id)
  for (const child of children) {
    const childType = world.numbers.identity('type', child['type_id'] as number)!
    if (mayStandBelow(world.document, childType, type)) continue
    const named = visibleProjects(world, person).includes(child['project_id'] as number)
      ? refOf(world, child)
      : 'something'
    throw refused(
      `A ${world.document.types[type]!.title} cannot have a ${world.document.types[childType]!.title} below it, and ${named} stands there; move that first.`,
      [{ pointer: '/type', message: 'What stands below does not fit this type.' }],
    )
  }
}
