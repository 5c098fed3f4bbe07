import { elementAt, lastIn } from '@bluestem/core/known'

/** A seeded source of chance (mulberry32), so that the demo is the same on every run but for the day it ends on. */
export class Chance {
  #state: number

  constructor(seed: number) {
    this.#state = seed >>> 0
  }

  /** From 0 up to, not including, 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0
    let mixed = this.#state
    mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }

  happens(probability: number): boolean {
    return this.next() < probability
  }

  whole(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1))
  }

  pick<T>(list: readonly T[]): T {
    return elementAt(list, Math.floor(this.next() * list.length))
  }

  /** One of the values, each as often as its weight says. */
  weighted<T>(choices: readonly (readonly [T, number])[]): T {
    let left = this.next() * choices.reduce((sum, [, weight]) => sum + weight, 0)
    for (const [value, weight] of choices) if ((left -= weight) < 0) return value
    return lastIn(choices)[0]
  }

  /** A duration with a long tail: half are below `median`, few far above. */
  lasting(median: number, spread = 0.9): number {
    const normal = Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next())
    return median * Math.exp(spread * normal)
  }
}
