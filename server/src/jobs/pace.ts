import { setTimeout as pause } from 'node:timers/promises'

/** How long one batch is to take, in milliseconds: an edit of an item in it waits no longer. */
const aim = 100
/** How many items a job changes in one transaction: fewer where that takes long, for an edit of one of them waits for the whole. */
const batch = { least: 50, most: 500 }
/** How often it is told how far a job is, in milliseconds. */
const between = 1000

/** Keeps a long job from holding others up: its batches are as large as they may be, with pauses in which others have the machine. */
export class Pace {
  #size: number = batch.most
  #told = 0

  /** how many items the next batch may have */
  get size(): number {
    return this.#size
  }

  /** Does one batch, then leaves as much time to whoever works meanwhile. Longer pauses were tried: nobody waited less, and it all took longer. */
  async measure<T>(work: () => Promise<T>): Promise<T> {
    const began = performance.now()
    const done = await work()
    const took = performance.now() - began
    const next = (this.#size * aim) / Math.max(1, took)
    this.#size = Math.round(Math.min(batch.most, Math.max(batch.least, next)))
    await pause(took)
    return done
  }

  /** Whether it is time to tell how far the job is. */
  isTimeToTell(): boolean {
    if (performance.now() - this.#told < between) return false
    this.#told = performance.now()
    return true
  }
}
