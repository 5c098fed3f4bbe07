import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { refused } from '../problems/problem.ts'
import type { World } from './world.ts'

/**
 * Holds publishing off while items are written, and says when the statement at hand was built for an older edition. SHARE is for
 * writers of items, who may be many; UPDATE for who makes the next edition.
 */
export async function holdEdition(
  database: Sequelize,
  world: World,
  lock: 'SHARE' | 'UPDATE' = 'SHARE',
): Promise<void> {
  const [current] = await rows<{ number: number }>(
    database,
    `SELECT number FROM current_edition FOR ${lock}`,
  )
  judgeEdition(world, current?.number)
}

/** @throws Problem that lets a request be tried again, when another edition is current than the one it was answered in */
export function judgeEdition(world: World, current: number | undefined): void {
  if (current !== world.edition)
    throw refused('A new edition was published at this moment; try again.', [], { retry: true })
}
