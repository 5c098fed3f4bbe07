import pg from 'pg'
import { claimProcess, freeJobsOfTheDead } from '../sql/queue.ts'

/** How often a process looks whether another has died, in milliseconds. */
const lookEvery = 10_000

/**
 * Shows that a process lives, by an advisory lock of a connection of its own, and frees the jobs of those that no longer do. A plain
 * queue waits four hours for a process that was killed.
 */
export class Presence {
  readonly #url: string
  readonly #name: string
  readonly #timer: NodeJS.Timeout
  #client: pg.Client | undefined
  #looking: Promise<void> = Promise.resolve()

  constructor(url: string, name: string) {
    this.#url = url
    this.#name = name
    this.#timer = setInterval(() => this.look(), lookEvery)
    this.look()
  }

  /** Looks once, after the look that is under way. */
  look(): void {
    this.#looking = this.#looking
      .then(async () => await freeJobsOfTheDead(await this.#connection(), this.#name))
      // The database is away; the next look finds it.
      .catch(() => undefined)
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer)
    await this.#looking
    await this.#client?.end().catch(() => undefined)
  }

  /** The connection that holds the lock; made anew after the database went away. */
  async #connection(): Promise<pg.Client> {
    if (this.#client) return this.#client
    const client = new pg.Client({
      connectionString: this.#url,
      application_name: 'bluestem presence',
    })
    client.on('error', () => (this.#client = undefined))
    await client.connect()
    await claimProcess(client, this.#name)
    this.#client = client
    return client
  }
}
