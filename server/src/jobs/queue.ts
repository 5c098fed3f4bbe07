import { Op, type Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { enqueue } from '../sql/queue.ts'
import { type Job, type JobKind, keyOf } from './job.ts'

interface NewJob {
  readonly kind: JobKind
  readonly subject: string
  /** when it is due */
  readonly at: Date
  readonly by: number | null
  /** how much there is to do, where it is counted */
  readonly total?: number
}

/** Puts a job in line, in the transaction of what it belongs to. One about the same that still waits is done at the new time instead. */
export async function addJob(
  database: Sequelize,
  { kind, subject, at, by, total = 0 }: NewJob,
  now: Date,
): Promise<void> {
  const jobs = modelsOf(database).job
  const open = await jobs.findOne({ where: { kind, subject, finishedAt: null } })
  const values = { runAt: at, byId: by, total }
  const job = open ? await open.update(values) : await jobs.create({ kind, subject, ...values })
  await goOn(database, job, at, now)
}

/** Lets a job run at a time. */
export async function goOn(database: Sequelize, job: Job, at: Date, now: Date): Promise<void> {
  const delay = Math.max(0, at.getTime() - now.getTime())
  await enqueue(database, job.kind, keyOf(job), { job: job.id }, delay)
}

/** Why the last job of a kind about something was refused; null where none was. */
export async function lastFailure(
  database: Sequelize,
  kind: JobKind,
  subject: string,
): Promise<string | null> {
  const last = await modelsOf(database).job.findOne({
    where: { kind, subject, failed: { [Op.not]: null } },
    order: [['id', 'DESC']],
  })
  return last?.failed ?? null
}
