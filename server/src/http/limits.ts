import type { ClientRateLimitInfo, Options, Store } from 'express-rate-limit'
import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'

/** Counts attempts in PostgreSQL, so that several processes agree on who asks too often. */
export class AttemptStore implements Store {
  readonly #database: Sequelize
  readonly prefix: string
  #window = 60_000

  constructor(database: Sequelize, prefix: string) {
    this.#database = database
    this.prefix = prefix
  }

  init({ windowMs }: Options): void {
    this.#window = windowMs
  }

  async increment(key: string): Promise<ClientRateLimitInfo> {
    const [counted] = await rows<{ hits: number; first: Date }>(this.#database, `
      WITH mine AS (INSERT INTO attempt (key) VALUES ($1) RETURNING at), old AS (DELETE FROM attempt WHERE key = $1 AND at < now() - make_interval(secs => $2))
      SELECT count(a.at) + 1 AS hits, min(coalesce(a.at, mine.at)) AS first FROM mine LEFT JOIN attempt a ON a.key = $1 AND a.at >= now() - make_interval(secs => $2)`, [this.prefix + key, this.#window / 1000])
    return { totalHits: counted!.hits, resetTime: new Date(counted!.first.getTime() + this.#window) }
  }

  async decrement(key: string): Promise<void> {
    await run(this.#database, 'DELETE FROM attempt WHERE ctid = (SELECT ctid FROM attempt WHERE key = $1 LIMIT 1)', [this.prefix + key])
  }

  async resetKey(key: string): Promise<void> {
    await run(this.#database, 'DELETE FROM attempt WHERE key = $1', [this.prefix + key])
  }
}
