import { certain } from '@bluestem/core/known'
import type { JobAnswer, JobState } from '@bluestem/core/jobs'
import { Op, type Sequelize } from 'sequelize'
import type { JobModel } from '../database/models/job.ts'
import { modelsOf } from '../database/models/models.ts'
import { type QueuedJob, queuedJobs } from '../sql/queue.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import { keyOf } from './job.ts'
import { jobsSince } from './prune.ts'

/** How many jobs that are over are told. */
const mostOver = 100

/** Every job that is not over, and the last ones that are; what recurs only where it failed. */
export async function listJobs(
  database: Sequelize,
  { world, now }: ActorContext,
): Promise<JobAnswer[]> {
  const jobs = modelsOf(database).job
  const open = await jobs.findAll({ where: { finishedAt: null }, order: ['runAt', 'id'] })
  const over = await jobs.findAll({
    where: { finishedAt: { [Op.gt]: jobsSince(now) } },
    order: [['finishedAt', 'DESC']],
    limit: mostOver,
  })
  const queued = new Map((await queuedJobs(database)).map((job) => [job.key, job]))
  const titles = await titlesOf(database, [...open, ...over])
  const describe = (job: JobModel): JobAnswer =>
    answerOf(world, now, job, queued.get(keyOf(job)), titles.get(job.subject))
  const recorded = new Set([...open, ...over].map(keyOf))
  return [
    ...open.map(describe),
    ...[...queued.values()]
      .filter((queuedJob) => !recorded.has(queuedJob.key) && queuedJob.attempts > 0)
      .map((queuedJob) => choreAnswer(now, queuedJob)),
    ...over.map(describe),
  ]
}

/** What drafts and mappings are called, by the subject of a job about them. */
async function titlesOf(
  database: Sequelize,
  jobs: readonly JobModel[],
): Promise<ReadonlyMap<string, string>> {
  const drafts = jobs.filter((job) => job.kind === 'publish').map((job) => job.subject)
  if (drafts.length === 0) return new Map()
  const found = await modelsOf(database).draft.findAll({
    attributes: ['identity', 'title'],
    where: { identity: drafts },
  })
  return new Map(found.map((draft) => [draft.identity, draft.title]))
}

const titleOf = ({ kind, subject }: JobModel, title = ''): string => {
  if (kind === 'publish') return `Publish “${title || 'a draft'}”`
  if (kind === 'bulk') return 'Change many items'
  if (kind === 'import') return 'Bring a file in'
  return subject.startsWith('merge')
    ? 'Rewrite items after a merge of labels'
    : `Rewrite items for edition ${subject}`
}

function answerOf(
  world: World,
  now: Date,
  job: JobModel,
  queued: QueuedJob | undefined,
  title: string | undefined,
): JobAnswer {
  const canceller = nameOf(world, job.cancelledBy)
  return {
    key: keyOf(job),
    kind: job.kind,
    title: titleOf(job, title),
    by: nameOf(world, job.byId),
    state: stateOf(job, queued),
    at: (job.finishedAt ?? dueAt(now, queued) ?? job.runAt).toISOString(),
    done: job.done,
    total: job.total,
    attempts: queued?.attempts ?? 0,
    reason: canceller ? `Cancelled by ${canceller}.` : (job.failed ?? queued?.last_error ?? null),
    cancellable: job.finishedAt === null && job.kind === 'publish',
  }
}

const choreAnswer = (now: Date, queued: QueuedJob): JobAnswer => ({
  key: queued.key,
  kind: queued.kind,
  title: 'Take away what has served',
  by: null,
  state: queueState(queued),
  at: certain(dueAt(now, queued), 'next time of a chore').toISOString(),
  done: 0,
  total: 0,
  attempts: queued.attempts,
  reason: queued.last_error,
  cancellable: false,
})

const nameOf = (world: World, number: number | null): string | null =>
  world.people.find((person) => person.number === number)?.name ?? null

/** The queue has the clock of the database; what people see has the workspace's. */
const dueAt = (now: Date, queued: QueuedJob | undefined): Date | undefined =>
  queued && new Date(now.getTime() + queued.due_in)

function stateOf(job: JobModel, queued: QueuedJob | undefined): JobState {
  if (job.cancelledBy !== null) return 'cancelled'
  if (job.failed !== null) return 'refused'
  if (job.finishedAt !== null) return 'done'
  return queued ? queueState(queued) : 'given up'
}

function queueState({ running, attempts, max_attempts: most }: QueuedJob): JobState {
  if (running) return 'at work'
  if (attempts === 0) return 'waiting'
  return attempts >= most ? 'given up' : 'tried again'
}
