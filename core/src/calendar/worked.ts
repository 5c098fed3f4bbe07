import { addDays, type Day, type Instant } from './day.ts'
import { spansOf, type WorkingTime } from './working.ts'

/** Working time as stretches in order: where each begins, how many milliseconds were worked before it, and how many in all. */
export interface Worked {
  readonly from: readonly Instant[]
  readonly before: readonly number[]
  readonly all: number
}

/** The stretches of working time from one day to another, both included. */
export function workedOver(first: Day, last: Day, working: WorkingTime, zone: string): Worked {
  const from: Instant[] = []
  const before: number[] = []
  let all = 0
  for (let day = first; day <= last; day = addDays(day, 1))
    for (const span of spansOf(day, working, zone)) {
      from.push(span.from)
      before.push(all)
      all += span.to - span.from
    }
  return { from, before, all }
}
