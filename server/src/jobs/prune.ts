import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** How long what serves only for a while is kept. */
export const kept = { outbox: '7 days', answered: '7 days' } as const

/**
 * Takes away what has served: sessions and attempts that ran out, what screens were told of long ago, and the keys of requests that
 * nobody sends again. Several processes may do it at once.
 */
export async function prune(database: Sequelize): Promise<void> {
  await rows(database, 'DELETE FROM session WHERE expire < now()')
  await rows(database, 'DELETE FROM attempt WHERE ends < now()')
  // The last of all stays, for counts are known to be old by it.
  await rows(
    database,
    `DELETE FROM outbox WHERE at < now() - interval '${kept.outbox}' AND number < (SELECT max(number) FROM outbox)`,
  )
  await rows(database, `DELETE FROM answered WHERE at < now() - interval '${kept.answered}'`)
}
