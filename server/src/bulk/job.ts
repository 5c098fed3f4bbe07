import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { BulkChangeModel } from '../database/models/bulkChange.ts'
import { modelsOf } from '../database/models/models.ts'
import { bulkItems, type Outcome, outcomes, recordOutcomes } from '../items/bulk.ts'
import { actorOfJob } from '../jobs/actor.ts'
import type { Work } from '../jobs/job.ts'
import { Pace } from '../jobs/pace.ts'
import { Problem } from '../problems/problem.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Worlds } from '../workspace/world.ts'
import { carryOutBatch } from './carryOut.ts'
import { takeBackBatch } from './takeBack.ts'

/** What is done next: the items, and what with them. */
interface Batch {
  readonly ids: readonly number[]
  readonly carryOut: (actor: ActorContext) => Promise<void>
}

/** What was taken back of a change that was cancelled counts as taken back; what could not be stays changed. */
const cancelled = (found: readonly Outcome[]): Outcome[] =>
  found.map((entry) =>
    entry.outcome === outcomes.changed ? { ...entry, outcome: outcomes.takenBack } : entry,
  )

/** The next batch of a change: of one that was cancelled, what it changed is taken back. */
async function nextBatch(database: Sequelize, bulk: BulkChangeModel, size: number): Promise<Batch> {
  if (bulk.cancelledAt !== null) {
    const changed = await bulkItems(database, bulk.id, outcomes.changed, size)
    return {
      ids: changed,
      carryOut: async (actor) => {
        const found = await takeBackBatch(database, actor, bulk, changed)
        await recordOutcomes(database, bulk.id, cancelled(found))
      },
    }
  }
  const ids = await bulkItems(database, bulk.id, outcomes.waiting, size)
  if (bulk.undoes === null)
    return {
      ids,
      carryOut: async (actor) => await carryOutBatch(database, actor, bulk, ids),
    }
  const of = await modelsOf(database).bulkChange.findByPk(bulk.undoes, { rejectOnEmpty: true })
  return {
    ids,
    carryOut: async (actor) => {
      await recordOutcomes(database, bulk.id, await takeBackBatch(database, actor, of, ids))
    },
  }
}

/**
 * Carries out changes of many items, a small transaction at a time, so that nobody waits long and a kill loses at most one batch,
 * which is then done again. A change that is cancelled is taken back, so that it leaves nothing half done.
 */
export const carryOutBulk =
  (database: Sequelize, worlds: Worlds, clock: () => Date): Work =>
  async (job, signal) => {
    const bulks = modelsOf(database).bulkChange
    const pace = new Pace()
    const tell = async (by: number): Promise<void> =>
      await announce(database, 'bulk', job.subject, { person: by }, clock())
    for (;;) {
      const bulk = await bulks.findOne({ where: { identity: job.subject, finishedAt: null } })
      if (!bulk) return undefined
      if (signal.aborted) return clock()
      const batch = await nextBatch(database, bulk, pace.size)
      if (batch.ids.length === 0) {
        await bulks.update({ finishedAt: clock() }, { where: { id: bulk.id } })
        await tell(bulk.byId)
        return undefined
      }
      await pace.measure(async () => await oneBatch(database, worlds, bulk.byId, batch, clock))
      await modelsOf(database).job.increment({ done: batch.ids.length }, { where: { id: job.id } })
      if (pace.isTimeToTell()) await tell(bulk.byId)
    }
  }

/** Carries one batch out; one that met a new edition is left for the next round, in the new world. */
async function oneBatch(
  database: Sequelize,
  worlds: Worlds,
  person: number,
  { carryOut }: Batch,
  clock: () => Date,
): Promise<void> {
  try {
    await inTransaction(
      database,
      async () => await carryOut(await actorOfJob(worlds, person, clock())),
    )
  } catch (error) {
    if (!(error instanceof Problem && error.more['retry'] === true)) throw error
  }
}
