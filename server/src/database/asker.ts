import { AsyncLocalStorage } from 'node:async_hooks'
import { availableParallelism } from 'node:os'
import { type Problem, unavailable } from '../problems/problem.ts'

/** A statement under way: ends it in the database, and is resolved when that was told. */
export type Cancel = () => Promise<void>

/**
 * How many connections one person may hold, in all their requests. What has held one for long counts double. More than there are
 * processors would make nobody's answer come sooner, and everybody else's later.
 */
const most = Math.max(2, Math.min(4, availableParallelism()))
const long = 500
/** How long a request waits for a connection before it is told to come back, in milliseconds. */
const patience = 10_000

interface Hold {
  readonly since: number
}

/** The connections of one person; what is given back wakes one who waits. */
class Share {
  readonly #holds = new Set<Hold>()
  readonly #waiting = new Set<() => void>()

  #used(): number {
    const now = performance.now()
    return [...this.#holds].reduce((sum, { since }) => sum + (now - since > long ? 2 : 1), 0)
  }

  async take(): Promise<Hold> {
    const until = performance.now() + patience
    while (this.#used() >= most) {
      if (performance.now() > until)
        throw unavailable(
          'Busy',
          'Other questions of yours are still being answered; ask again in a moment.',
          3,
        )
      await this.#turn()
    }
    const hold = { since: performance.now() }
    this.#holds.add(hold)
    return hold
  }

  give(hold: Hold): void {
    this.#holds.delete(hold)
    const [first] = this.#waiting
    first?.()
  }

  /** Until something is given back, or a moment has passed. */
  async #turn(): Promise<void> {
    await new Promise<void>((done) => {
      const wake = (): void => {
        clearTimeout(timer)
        this.#waiting.delete(wake)
        done()
      }
      const timer = setTimeout(wake, 250)
      this.#waiting.add(wake)
    })
  }
}

/** Of everybody who ever asked: a share is small, and one taken away while somebody waits on it would let them have two. */
const shares = new Map<number, Share>()

/** One request at work: what it runs in the database ends when whoever asked is gone, or when it takes too long. */
export class RequestWork {
  readonly #person: number
  readonly #running = new Set<Cancel>()
  #gone: Problem | undefined

  constructor(person: number) {
    this.#person = person
  }

  /** Runs work that holds a connection, within the person's share of them. */
  async holding<T>(work: () => Promise<T>): Promise<T> {
    const share = shares.get(this.#person) ?? new Share()
    shares.set(this.#person, share)
    const hold = await share.take()
    try {
      return await work()
    } finally {
      share.give(hold)
    }
  }

  /** Notes a statement that begins. @throws the reason when the request was ended @returns what to call when it has ended */
  begins(cancel: Cancel): () => void {
    if (this.#gone) throw this.#gone
    this.#running.add(cancel)
    return () => this.#running.delete(cancel)
  }

  /** Ends the request: what runs is cancelled, and nothing more begins. */
  end(reason: Problem): void {
    if (this.#gone) return
    this.#gone = reason
    for (const cancel of this.#running) void cancel()
  }

  get ended(): Problem | undefined {
    return this.#gone
  }
}

const askers = new AsyncLocalStorage<RequestWork>()

export const runAs = async <T>(asker: RequestWork, work: () => Promise<T>): Promise<T> =>
  await askers.run(asker, work)

/** Runs work that goes on although the request at hand ends. */
export const runAsServer = <T>(work: () => T): T => askers.exit(work)

/** The request at work; none where the server works by itself. */
export const presentWork = (): RequestWork | undefined => askers.getStore()
