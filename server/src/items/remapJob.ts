import { setTimeout as pause } from 'node:timers/promises'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { batch, concernedItems, finishMapping, rewriteItems } from './remap.ts'
import { announce } from '../sql/outbox.ts'
import type { Worlds } from '../workspace/world.ts'
import type { Work } from '../jobs/job.ts'

/** How long one batch is to take, in milliseconds: an edit of an item in it waits no longer. */
const aim = 100
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
        (one) => (one.edition === null ? `merge ${one.id}` : String(one.edition)) === job.subject,
      )
      if (!mapping) return undefined
      let [last, size, told] = [0, batch.most, 0]
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
        const ids = ahead.splice(0, size)
        const began = performance.now()
        await inTransaction(database, async () => {
          // Held against publishing, so that the list of columns is the one of the edition in force.
          const [edition] = await rows<{ number: number }>(
            database,
            'SELECT number FROM current_edition FOR SHARE',
          )
          const world = await worlds.now()
          if (world.edition !== edition!.number) return void (ahead = [...ids, ...ahead])
          const count = await rewriteItems(database, world.columns, mapping, ids, clock())
          await run(database, 'UPDATE job SET done = done + $2 WHERE id = $1', [job.id, count])
        })
        const took = performance.now() - began
        size = Math.round(
          Math.min(batch.most, Math.max(batch.least, (size * aim) / Math.max(1, took))),
        )
        // Whoever works meanwhile has the other half of the machine. Longer pauses were tried: nobody waited less, and it all took longer.
        await pause(took)
        if (performance.now() - told < 1000) continue
        told = performance.now()
        await announce(database, 'mapping', job.subject, {}, clock())
      }
      await finishMapping(database, mapping.id, clock())
      await announce(database, 'mapping', job.subject, {}, clock())
    }
  }
