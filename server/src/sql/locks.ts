import type { Sequelize } from 'sequelize'
import { inTransaction, row, rows, run } from '../database/connect.ts'

/** The numbers that nothing else of Bluestem locks by; `queue.ts` has one more. Each holds until its transaction ends. */
const locks = { gate: 7_264_101, circle: 7103, tree: 7104, key: 7105 } as const

/** Answers a long question (a course, an export): many may, but not while an edition changes the tables. */
export const throughGate = async <T>(database: Sequelize, answer: () => Promise<T>): Promise<T> =>
  await inTransaction(database, async () => {
    await run(database, 'SELECT pg_advisory_xact_lock_shared($1)', [locks.gate])
    return await answer()
  })

/**
 * Closes the gate until the transaction ends: waits for the long questions that are being answered, while new ones wait behind.
 * Nobody else is held up: no table is locked yet.
 *
 * @param most how long to wait, in milliseconds
 * @throws lock_not_available (55P03) when they take longer
 */
export async function closeGate(database: Sequelize, most: number): Promise<void> {
  await limitLockWait(database, most)
  await run(database, 'SELECT pg_advisory_xact_lock($1)', [locks.gate])
}

/** Lets no statement of the transaction wait longer for a lock, in milliseconds. */
export async function limitLockWait(database: Sequelize, most: number): Promise<void> {
  await run(database, `SET LOCAL lock_timeout = '${most}ms'`)
}

/** The oldest transaction that still runs: whatever came before it is seen by everybody. */
export async function oldestRunning(database: Sequelize): Promise<string> {
  const found = await row<{ xmin: string }>(
    database,
    'SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS xmin',
  )
  return found.xmin
}

/** The expression that holds the tree of items until the transaction ends: of two who set a parent, one waits for the other. */
export const holdTree = `pg_advisory_xact_lock(${locks.tree})::text AS tree`

export async function lockTree(database: Sequelize): Promise<void> {
  await rows(database, `SELECT ${holdTree}`)
}

/** Holds the links of one kind, so that two at once do not close a circle. */
export async function lockLinks(database: Sequelize, kind: number): Promise<void> {
  await rows(database, 'SELECT pg_advisory_xact_lock($1, $2)::text', [locks.circle, kind])
}

/** Holds a person's idempotency key: whoever sends the same at the same moment waits. */
export async function lockKey(database: Sequelize, person: number, key: string): Promise<void> {
  await rows(database, 'SELECT pg_advisory_xact_lock(hashtextextended($1, $2))::text', [
    `${person} ${key}`,
    locks.key,
  ])
}
