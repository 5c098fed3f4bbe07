import { elementAt } from '../known/index.ts'
import type { Instant } from '../calendar/day.ts'
import { Decimal } from '../queries/values/decimal.ts'

/** One state an item had: `value` counts for the measure from `from` until (not including) `to`. */
export interface Counted {
  readonly from: Instant
  readonly to: Instant
  readonly value: number
}

/**
 * The course of a measure: its value at the end of each step.
 *
 * Each state counts `+value` when it begins and `-value` when it ends, so the whole course is one sort and one running sum:
 * O(n log n + steps), whatever the length of the span.
 *
 * @param states states that meet the measure's filter, in any order; states of one item do not overlap
 * @param ends   the instants at which each step ends, ascending; what happens at an end belongs to the step after
 * @returns one number for each step, in the measure's unit; 0 before the first state
 */
export function course(states: readonly Counted[], ends: readonly Instant[]): number[] {
  const events = states
    .flatMap(
      ({ from, to, value }) =>
        [
          [from, value],
          [to, -value],
        ] as const,
    )
    .sort(([a], [b]) => a - b)
  let next = 0
  let running = 0
  return ends.map((end) => {
    for (; next < events.length && elementAt(events, next)[0] < end; next += 1)
      running += elementAt(events, next)[1]
    return running
  })
}

/** One row of the single pass over history: what was added to a group within one bucket of the bounds, as decimal text where it may be no whole number. */
export interface Bucket {
  readonly bucket: number
  readonly key: string
  readonly change: number | string
}

/**
 * Makes courses of the buckets a database summed: bucket 0 is all that came before the first bound.
 *
 * @param buckets changes by group and bucket, in any order; bucket k lies between bound k−1 and bound k
 * @param steps   how many bounds there are
 * @returns for each group its value just before each bound
 */
export function runningSums(buckets: readonly Bucket[], steps: number): Map<string, number[]> {
  // Decimals, so that what is added and taken away again comes back to nothing.
  const changes = new Map<string, Map<number, Decimal>>()
  for (const { bucket, key, change } of buckets) {
    const row = changes.get(key) ?? new Map<number, Decimal>()
    row.set(bucket, new Decimal(change).plus(row.get(bucket) ?? 0))
    changes.set(key, row)
  }
  return new Map([...changes].map(([key, row]) => [key, summed(row, steps)]))
}

function summed(changes: ReadonlyMap<number, Decimal>, steps: number): number[] {
  let running = new Decimal(0)
  let value = 0
  return Array.from({ length: steps }, (_, at) => {
    const change = changes.get(at)
    if (change) {
      running = running.plus(change)
      value = running.toNumber()
    }
    return value
  })
}
