import { Op, type Sequelize } from 'sequelize'
import type { OutboxModel } from '../database/models/outbox.ts'
import { modelsOf } from '../database/models/models.ts'

/** How long what serves only for a while is kept. */
const retention = {
  outboxDays: 7,
  answeredDays: 7,
  jobDays: 30,
  droppedDays: 30,
  binDays: 30,
} as const

/** For how many days what was deleted can be brought back. */
export const { binDays } = retention

/** Since when items that were deleted can be brought back. */
export const binnedSince = (now: Date): Date => daysBefore(now, binDays)

/** Since when drafts that were dropped can be taken back. */
export const droppedSince = (now: Date): Date => daysBefore(now, retention.droppedDays)

/** Since when jobs that are over are kept. */
export const jobsSince = (now: Date): Date => daysBefore(now, retention.jobDays)

/**
 * Deletes what has served its time; several processes may do it at once.
 *
 * @param now the workspace's clock, by which events, drafts and jobs are stamped
 */
export async function prune(database: Sequelize, now: Date): Promise<void> {
  await pruneStampedByDatabase(database, new Date())
  await pruneStampedByClock(database, now)
}

/** Deletes sessions and attempts that ran out, and keys of requests that nobody sends again. */
async function pruneStampedByDatabase(database: Sequelize, now: Date): Promise<void> {
  const { answered, attempt, session } = modelsOf(database)
  await session.destroy({ where: { expire: { [Op.lt]: now } } })
  await attempt.destroy({ where: { ends: { [Op.lt]: now } } })
  await answered.destroy({ where: { at: { [Op.lt]: daysBefore(now, retention.answeredDays) } } })
}

/** Deletes old events of the live stream, drafts that were dropped, and jobs that were over long ago. */
async function pruneStampedByClock(database: Sequelize, now: Date): Promise<void> {
  const { draft, job, outbox } = modelsOf(database)
  const last = await outbox.max<number, OutboxModel>('number')
  // The last event stays, because the age of counts is read from it.
  await outbox.destroy({
    where: {
      at: { [Op.lt]: daysBefore(now, retention.outboxDays) },
      number: { [Op.lt]: last ?? 0 },
    },
  })
  await draft.destroy({
    where: { droppedBy: { [Op.not]: null }, closedAt: { [Op.lt]: droppedSince(now) } },
  })
  await job.destroy({ where: { finishedAt: { [Op.lt]: jobsSince(now) } } })
}

const daysBefore = (now: Date, days: number): Date => new Date(now.getTime() - days * 86_400_000)
