import pg from 'pg'
import { Op, type Sequelize } from 'sequelize'
import { holdJob, letJobGo } from '../sql/locks.ts'
import { modelsOf } from '../database/models/models.ts'

export interface Job {
  readonly id: number
  readonly kind: string
  readonly subject: string
  readonly byId: number | null
}

/** What a job does; it must be able to go on where it was cut off, for it is run again until it says that it is done. */
export type Work = (job: Job) => Promise<void>

/** Puts a job in line, in the transaction of what it belongs to. */
export async function addJob(
  database: Sequelize,
  kind: string,
  subject: string,
  at: Date,
  by: number | null,
  total = 0,
): Promise<void> {
  await modelsOf(database).job.create({ kind, subject, runAt: at, byId: by, total })
}

/** Why the last job of a kind about something was refused; null where none was. */
export async function lastFailure(
  database: Sequelize,
  kind: string,
  subject: string,
): Promise<string | null> {
  const last = await modelsOf(database).job.findOne({
    where: { kind, subject, failed: { [Op.not]: null } },
    order: [['id', 'DESC']],
  })
  return last?.failed ?? null
}

/** A job that cannot be done, for a reason that people are told; it is not tried again. */
export class JobRefused extends Error {}

/**
 * Does what is due. A job is held by an advisory lock of the session that works on it, not by a lease: when a server is killed its
 * session ends, and any other goes on at once. Several processes may run it side by side.
 */
export class Jobs {
  readonly #database: Sequelize
  readonly #url: string
  readonly #works: Readonly<Record<string, Work>>
  readonly #clock: () => Date
  #client: pg.Client | undefined
  #stopped = false
  #turning: Promise<void> = Promise.resolve()
  #timer: NodeJS.Timeout | undefined

  constructor(
    database: Sequelize,
    url: string,
    works: Readonly<Record<string, Work>>,
    clock: () => Date,
  ) {
    this.#database = database
    this.#url = url
    this.#works = works
    this.#clock = clock
  }

  start(): void {
    this.#turn()
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    await this.#turning
    await this.#client?.end().catch(() => undefined)
  }

  #turn(): void {
    this.#turning = this.runDue()
      .catch(() => undefined)
      .then(() => {
        if (!this.#stopped) this.#timer = setTimeout(() => this.#turn(), 1000)
      })
  }

  /** Runs every job that is due and that nobody else works on. A job that fails by a defect is left for the next turn. */
  async runDue(): Promise<void> {
    const due = await modelsOf(this.#database).job.findAll({
      where: { finishedAt: null, runAt: { [Op.lte]: this.#clock() } },
      order: ['runAt', 'id'],
      limit: 20,
    })
    for (const job of due) if (!this.#stopped) await this.#hold(job)
  }

  async #hold(job: Job): Promise<void> {
    const client = await this.#session()
    if (!(await holdJob(client, job.id))) return
    try {
      await this.#finish(job)
    } finally {
      await letJobGo(client, job.id).catch(() => undefined)
    }
  }

  async #finish(job: Job): Promise<void> {
    // Another process may have finished it between the look and the lock.
    const jobs = modelsOf(this.#database).job
    const open = await jobs.count({ where: { id: job.id, finishedAt: null } })
    if (open === 0) return
    let failed: string | null = null
    try {
      await this.#works[job.kind]?.(job)
    } catch (error) {
      if (!(error instanceof JobRefused)) throw error
      failed = error.message
    }
    await jobs.update({ finishedAt: this.#clock(), failed }, { where: { id: job.id } })
  }

  /** The session that holds locks; made anew after the database went away. */
  async #session(): Promise<pg.Client> {
    if (this.#client) return this.#client
    const client = new pg.Client({ connectionString: this.#url, application_name: 'bluestem jobs' })
    client.on('error', () => {
      this.#client = undefined
    })
    await client.connect()
    this.#client = client
    return client
  }
}
