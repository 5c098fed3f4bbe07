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
 * Takes away what has served: sessions and attempts that ran out, what screens were told of long ago, the keys of requests that
 * nobody sends again, jobs that were over long ago, and
 * drafts that were dropped. Several processes may do it at once.
 */
export async function prune(database: Sequelize): Promise<void> {
  const { answered, attempt, draft, job, outbox, session } = modelsOf(database)
  const now = new Date()
  await session.destroy({ where: { expire: { [Op.lt]: now } } })
  await attempt.destroy({ where: { ends: { [Op.lt]: now } } })
  const last = await outbox.max<number, OutboxModel>('number')
  // The last of all stays, for counts are known to be old by it.
  await outbox.destroy({
    where: {
      at: { [Op.lt]: daysBefore(now, retention.outboxDays) },
      number: { [Op.lt]: last ?? 0 },
    },
  })
  await answered.destroy({ where: { at: { [Op.lt]: daysBefore(now, retention.answeredDays) } } })
  await draft.destroy({
    where: { droppedBy: { [Op.not]: null }, closedAt: { [Op.lt]: droppedSince(now) } },
  })
  await job.destroy({ where: { finishedAt: { [Op.lt]: jobsSince(now) } } })
}

const daysBefore = (now: Date, days: number): Date => new Date(now.getTime() - days * 86_400_000)
