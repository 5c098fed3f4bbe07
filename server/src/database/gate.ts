import type { Sequelize } from 'sequelize'
import { inTransaction, run } from './connect.ts'

/** Any number that nothing else of Bluestem locks by. */
const gate = 7_264_101

/** Answers a long question (a course, an export): many may, but not while an edition changes the tables. */
export const throughGate = async <T>(database: Sequelize, answer: () => Promise<T>): Promise<T> =>
  await inTransaction(database, async () => {
    await run(database, 'SELECT pg_advisory_xact_lock_shared($1)', [gate])
    return await answer()
  })

/**
 * Closes the gate until the transaction ends: waits for the long questions that are being answered, while new ones wait behind.
 * Nobody else is held up: no table is locked yet.
 *
 * @throws lock_not_available (55P03) when they take longer than `most` milliseconds
 */
export async function closeGate(database: Sequelize, most: number): Promise<void> {
  await run(database, `SET LOCAL lock_timeout = '${most}ms'`)
  await run(database, 'SELECT pg_advisory_xact_lock($1)', [gate])
}
