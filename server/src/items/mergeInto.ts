import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { saveMapping } from './remap.ts'
import type { PendingMapping } from '../workspace/mappings.ts'

/**
 * Keeps the mapping by which items that hold one label or component come to hold another.
 *
 * @returns the mapping, with how many items it concerns
 */
export async function mergeInto(
  database: Sequelize,
  { world, person, now }: ActorContext,
  column: 'labels' | 'components',
  from: number,
  to: number,
): Promise<PendingMapping> {
  const types = await rows<{ number: number }>(database, 'SELECT number FROM item_type')
  return await saveMapping(
    database,
    {
      edition: null,
      column,
      from,
      to,
      phase: null,
      several: true,
      projects: world.whole.projects.map((project) => project.number),
      types: types.map((type) => type.number),
      author: { kind: 'merge', number: person.number },
    },
    now,
  )
}
