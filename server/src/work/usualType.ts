import type { Sequelize } from 'sequelize'
import { usualType } from '../items/counts.ts'
import type { World } from '../workspace/world.ts'

/** The type that was made most among the last items of a project; null where there are none yet. */
export async function usualTypeIn(
  database: Sequelize,
  { numbers }: World,
  project: number,
): Promise<string | null> {
  const type = await usualType(database, project)
  return type === undefined ? null : (numbers.identity('type', type) ?? null)
}
