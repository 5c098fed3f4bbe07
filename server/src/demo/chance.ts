import { elementAt, lastIn } from '@bluestem/core/known'
import { randomLogNormal } from 'd3-random'
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64'
import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import type { RandomGenerator } from 'pure-rand/types/RandomGenerator'

/** A seeded source of chance, so that the demo is the same on every run but for the day it ends on. */
export class Chance {
  readonly #source: RandomGenerator

  constructor(seed: number) {
    this.#source = xoroshiro128plus(seed)
  }

  /** From 0 up to, not including, 1. */
  readonly next = (): number => uniformFloat64(this.#source)

  happens(probability: number): boolean {
    return this.next() < probability
  }

  whole(least: number, most: number): number {
    return uniformInt(this.#source, least, most)
  }

  pick<T>(list: readonly T[]): T {
    return elementAt(list, this.whole(0, list.length - 1))
  }

  /** One of the values, each as often as its weight says. */
  weighted<T>(choices: readonly (readonly [T, number])[]): T {
    let left = this.next() * choices.reduce((sum, [, weight]) => sum + weight, 0)
    for (const [value, weight] of choices) if ((left -= weight) < 0) return value
    return lastIn(choices)[0]
  }

  /** A duration with a long tail: half are below `median`, few far above. */
  lasting(median: number, spread = 0.9): number {
    return randomLogNormal.source(this.next)(Math.log(median), spread)()
  }
}
