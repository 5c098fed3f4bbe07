import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { JobModel } from '../database/models/job.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { notFound, refused } from '../problems/problem.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import { dequeue, makeDue, queuedJobs } from '../sql/queue.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { keyOf } from './job.ts'
import { goOn } from './queue.ts'

async function openJob(database: Sequelize, key: string): Promise<JobModel | null> {
  const [kind = '', ...subject] = key.split(' ')
  return await modelsOf(database).job.findOne({
    where: { kind, subject: subject.join(' '), finishedAt: null },
  })
}

/** Tries a job again now that failed and waits for its next try, or has none left. @throws Problem 404 where there is none to try */
export async function tryAgain(
  database: Sequelize,
  actor: ActorContext,
  key: string,
): Promise<void> {
  await inTransaction(database, async () => {
    const queued = (await queuedJobs(database)).find((job) => job.key === key)
    const job = await openJob(database, key)
    if (queued) await makeDue(database, [key])
    else if (job) await goOn(database, job, actor.now, actor.now)
    else throw notFound('job that is not over')
    await record(database, actor, 'tried a job again', key)
  })
}

/** Cancels a job that nothing has begun. @throws Problem 409 for one that must come to its end */
export async function cancelJob(
  database: Sequelize,
  actor: ActorContext,
  key: string,
): Promise<void> {
  await inTransaction(database, async () => {
    const job = await openJob(database, key)
    if (!job) throw notFound('job that is not over')
    if (job.kind !== 'publish')
      throw refused(
        'Questions count these items as rewritten already, so this job must come to its end; it holds nobody up.',
      )
    await changeVersion(modelsOf(database).draft, job.subject, '*', {
      publishAt: null,
      publishBy: null,
    })
    await closeJob(database, actor, job)
    await announce(database, 'draft', job.subject, {}, actor.now)
    await record(database, actor, 'cancelled a job', key)
  })
}

/** Calls off a job about something, where one waits. */
export async function callOff(
  database: Sequelize,
  actor: ActorContext,
  key: string,
): Promise<void> {
  const job = await openJob(database, key)
  if (job) await closeJob(database, actor, job)
}

async function closeJob(
  database: Sequelize,
  { person, now }: ActorContext,
  job: JobModel,
): Promise<void> {
  await job.update({ finishedAt: now, cancelledBy: person.number })
  await dequeue(database, keyOf(job))
}

async function record(
  database: Sequelize,
  { person, now }: ActorContext,
  act: string,
  key: string,
): Promise<void> {
  await audit(database, person.number, act, `job ${key}`, {}, now)
  await announce(database, 'job', key, {}, now)
}
