import { asNumber, asRecord } from '@bluestem/core/known'
import { EventEmitter } from 'node:events'
import { setTimeout as pause } from 'node:timers/promises'
import {
  Logger as QueueLogger,
  parseCronItems,
  run,
  type Runner,
  runOnce,
  type TaskList,
  type WorkerEvents,
} from 'graphile-worker'
import type { Pool } from 'pg'
import type { Logger } from 'pino'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { queuePool } from '../database/queuePool.ts'
import { inTransaction } from '../database/connect.ts'
import { announce } from '../sql/outbox.ts'
import { type JobKind, JobRefused, type Job, keyOf, type Work } from './job.ts'
import { goOn } from './queue.ts'
import { Presence } from './presence.ts'
import { prune } from './prune.ts'

/** How many jobs a process does at a time: one that waits for locks holds no other up. */
const atATime = 2

/** What recurs, at minutes and hours of the day: what has served goes every hour. */
const recurring = [{ task: 'prune', match: '17 * * * *', options: { jobKey: 'prune' } }]

export interface WorkerOptions {
  readonly database: Sequelize
  readonly url: string
  readonly works: Readonly<Record<JobKind, Work>>
  readonly clock: () => Date
  readonly logger: Logger
}

/** Does what is in the queue. Several processes may run side by side; who dies is replaced within seconds. */
export class JobWorker {
  readonly #options: WorkerOptions
  readonly #pool: Pool
  readonly #stopping = new AbortController()
  #runner: Runner | undefined
  #presence: Presence | undefined
  #going: Promise<void> = Promise.resolve()

  constructor(options: WorkerOptions) {
    this.#options = options
    this.#pool = queuePool({ connectionString: options.url, max: atATime + 2 })
  }

  start(): void {
    this.#going = this.#goOn()
  }

  async stop(): Promise<void> {
    this.#stopping.abort()
    await this.#runner?.stop().catch(() => undefined)
    await this.#going
    await this.#pool.end()
  }

  /** Does what is due now, and nothing after it. */
  async runDue(): Promise<void> {
    await runOnce({ pgPool: this.#pool, taskList: this.#tasks(), logger: this.#logger() })
  }

  /** A queue that gave up, since the database was away for long, is begun anew. */
  async #goOn(): Promise<void> {
    while (!this.#stopping.signal.aborted) {
      try {
        await this.#work()
      } catch (error) {
        this.#options.logger.warn({ err: error }, 'the queue of jobs stopped; it begins anew')
      }
      await pause(1000, undefined, { signal: this.#stopping.signal }).catch(() => undefined)
    }
  }

  async #work(): Promise<void> {
    const events: WorkerEvents = new EventEmitter()
    events.on('pool:create', ({ workerPool }) => {
      this.#presence = new Presence(this.#options.url, workerPool.id)
    })
    try {
      this.#runner = await run({
        pgPool: this.#pool,
        taskList: this.#tasks(),
        parsedCronItems: parseCronItems(recurring),
        concurrency: atATime,
        noHandleSignals: true,
        events,
        logger: this.#logger(),
      })
      await this.#runner.promise
    } finally {
      await this.#presence?.stop()
    }
  }

  #tasks(): TaskList {
    const { clock, database, works } = this.#options
    const tasks = Object.entries(works).map(([kind, work]) => [
      kind,
      async (payload: unknown) => await this.#do(asNumber(asRecord(payload)['job']), work),
    ])
    // Entries lose what their values are.
    return {
      ...Object.fromEntries(tasks),
      prune: async () => await prune(database, clock()),
    } as TaskList
  }

  async #do(id: number, work: Work): Promise<void> {
    const { database, clock } = this.#options
    const job = await modelsOf(database).job.findOne({ where: { id, finishedAt: null } })
    if (!job) return
    try {
      const again = await work(job, this.#stopping.signal)
      if (again) await goOn(database, job, again, clock())
      else await this.#finish(job, null)
    } catch (error) {
      if (!(error instanceof JobRefused)) throw error
      await this.#finish(job, error.message)
    }
  }

  async #finish(job: Job, failed: string | null): Promise<void> {
    const { database, clock } = this.#options
    await inTransaction(database, async () => {
      await modelsOf(database).job.update(
        { finishedAt: clock(), failed },
        { where: { id: job.id, finishedAt: null } },
      )
      await announce(database, 'job', keyOf(job), {}, clock())
    })
  }

  /** The queue’s own words go where ours go, once they matter. */
  #logger(): QueueLogger {
    const { logger } = this.#options
    return new QueueLogger(() => (level, message) => {
      if (String(level) === 'error') logger.error(message)
      else if (String(level) === 'warning') logger.warn(message)
    })
  }
}
