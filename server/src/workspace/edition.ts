import { type Sequelize, Transaction } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
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
  judgeEdition(world, await lockEdition(database, lock))
}

/** Locks the row of the current edition until the transaction ends. @returns the edition's number, where there is one */
export async function lockEdition(
  database: Sequelize,
  lock: 'SHARE' | 'UPDATE',
): Promise<number | undefined> {
  const current = await modelsOf(database).currentEdition.findOne({ lock: Transaction.LOCK[lock] })
  return current?.number
}

/** @throws Problem that lets a request be tried again, when another edition is current than the one it was answered in */
export function judgeEdition(world: World, current: number | undefined): void {
  if (current !== world.edition)
    throw refused('A new edition was published at this moment; try again.', [], { retry: true })
}
