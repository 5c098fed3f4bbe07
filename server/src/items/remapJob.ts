import type { Sequelize } from 'sequelize'
import { inTransaction, row, run } from '../database/connect.ts'
import { concernedItems, finishMapping, rewriteItems } from './remap.ts'
import { announce } from '../sql/outbox.ts'
import type { Worlds } from '../workspace/world.ts'
import type { Work } from '../jobs/job.ts'
import { Pace } from '../jobs/pace.ts'

/** How many items are found at a time. */
const findAhead = 10_000

/**
 * Rewrites the items of an edition's mappings, a small transaction at a time, so that nobody waits long and a kill loses at most one
 * batch, which is then done again. Mappings are carried out one after the other, each until nothing is left that it concerns.
 */
export const carryOutMappings =
  (database: Sequelize, worlds: Worlds, clock: () => Date): Work =>
  async (job, signal) => {
    for (;;) {
      const mapping = (await worlds.now()).mappings.find(
        (mapping) =>
          (mapping.edition === null ? `merge ${mapping.id}` : String(mapping.edition)) ===
          job.subject,
      )
      if (!mapping) return undefined
      const pace = new Pace()
      let last = 0
      let ahead: number[] = []
      for (;;) {
        // Finding items may read much of the table, so many are found at a time; each is looked at again before it is rewritten.
        if (ahead.length === 0) {
          ahead = await concernedItems(database, mapping, findAhead, last)
          if (ahead.length === 0 && last === 0) break
          last = ahead.at(-1) ?? 0
          if (ahead.length === 0) continue
        }
        if (signal.aborted) return clock()
        const ids = ahead.splice(0, pace.size)
        const rewrite = async (): Promise<void> => {
          // Held against publishing, so that the list of columns is the one of the edition in force.
          const edition = await row<{ number: number }>(
            database,
            'SELECT number FROM current_edition FOR SHARE',
          )
          const world = await worlds.now()
          if (world.edition !== edition.number) return void (ahead = [...ids, ...ahead])
          const count = await rewriteItems(database, world.columns, mapping, ids, clock())
          await run(database, 'UPDATE job SET done = done + $2 WHERE id = $1', [job.id, count])
        }
        await pace.measure(async () => await inTransaction(database, rewrite))
        if (pace.isTimeToTell()) await announce(database, 'mapping', job.subject, {}, clock())
      }
      await finishMapping(database, mapping.id, clock())
      await announce(database, 'mapping', job.subject, {}, clock())
    }
  }
