import { minutesOf } from './timeOfDay.ts'
import { entryOf } from '../known/index.ts'
import { Temporal } from 'temporal-polyfill'
import { type DayOff, isDayOff } from './daysOff.ts'
import { addDays, type Day, dayOf, type Instant, startOfDay, weekday } from './day.ts'

/** When work is done: windows of local time by ISO weekday (1 = Monday), as `HH:MM`, `24:00` for the end of the day; and days on which nobody works. */
export interface WorkingTime {
  readonly hours: Readonly<Record<string, readonly (readonly [from: string, to: string])[]>>
  readonly daysOff: readonly DayOff[]
}

/** Working time that has a name; the standard one holds wherever no other is named. */
export interface Calendar extends WorkingTime {
  readonly id: string
  readonly title: string
  readonly standard: boolean
  readonly version: number
}

export const isWorkingDay = (day: Day, { hours, daysOff }: WorkingTime): boolean =>
  (hours[weekday(day)] ?? []).length > 0 && !isDayOff(day, daysOff)

/** No calendar may be walked further than this: some hold no working day at all. */
const longest = 20_000

/** The day `count` working days later (earlier when negative): steps a day at a time and stops at the last one counted. */
export function addWorkingDays(day: Day, count: number, working: WorkingTime): Day {
  const step = count < 0 ? -1 : 1
  let at = day
  for (let [left, steps] = [Math.abs(count), 0]; left > 0 && steps < longest; steps += 1) {
    at = addDays(at, step)
    if (isWorkingDay(at, working)) left -= 1
  }
  return at
}

/** Working days after `from` up to and including `to`; negative backwards. */
export function workingDaysBetween(from: Day, to: Day, working: WorkingTime): number {
  if (from > to) return 0 - workingDaysBetween(to, from, working)
  let count = 0
  for (let day = from; day < to;) {
    day = addDays(day, 1)
    if (isWorkingDay(day, working)) count += 1
  }
  return count
}

/** A stretch of working time. */
interface WorkingSpan {
  readonly from: Instant
  readonly to: Instant
}

type SpansByDay = Map<string, readonly WorkingSpan[]>

/** What was found of each calendar, by zone and day: clocks of many items walk over the same days. It outlives the object that told the calendar. */
const found = new Map<string, SpansByDay>()
const foundOf = new WeakMap<WorkingTime, SpansByDay>()

/** Of how many calendars it is known at most what was found. */
const mostCalendars = 500

function spansFound(working: WorkingTime): SpansByDay {
  const known = foundOf.get(working)
  if (known) return known
  const content = JSON.stringify([working.hours, working.daysOff])
  const spans = found.get(content) ?? new Map<string, readonly WorkingSpan[]>()
  if (found.size >= mostCalendars) found.clear()
  found.set(content, spans)
  foundOf.set(working, spans)
  return spans
}

/** The working spans of one day as instants, looked up where they were asked for before. */
export function spansOf(day: Day, working: WorkingTime, zone: string): readonly WorkingSpan[] {
  const known = spansFound(working)
  const key = `${zone} ${day}`
  const spans = known.get(key) ?? computeSpans(day, working, zone)
  known.set(key, spans)
  return spans
}

const dayInMilliseconds = 86_400_000

/** The working spans of one day: windows of local time, so that one over a change of clocks is longer or shorter. */
function computeSpans(day: Day, working: WorkingTime, zone: string): WorkingSpan[] {
  if (!isWorkingDay(day, working)) return []
  const [begins, ends] = [startOfDay(day, zone), startOfDay(addDays(day, 1), zone)]
  const at = (time: string): Instant => {
    if (time === '24:00') return ends
    // Only a day on which clocks change is not as long as any other.
    return ends - begins === dayInMilliseconds
      ? begins + minutesOf(time) * 60_000
      : Temporal.PlainDateTime.from(`${day}T${time}`).toZonedDateTime(zone).epochMilliseconds
  }
  return entryOf(working.hours, weekday(day)).map(([from, to]) => ({
    from: at(from),
    to: at(to),
  }))
}

/** Minutes of working time between two instants; 0 when they are not in order. */
export function workingMinutes(
  from: Instant,
  to: Instant,
  working: WorkingTime,
  zone: string,
): number {
  let sum = 0
  for (
    let day = addDays(dayOf(from, zone), -1), last = dayOf(to, zone);
    day <= last;
    day = addDays(day, 1)
  ) {
    for (const span of spansOf(day, working, zone))
      sum += Math.max(0, Math.min(span.to, to) - Math.max(span.from, from))
  }
  return sum / 60_000
}

/** The instant at which so many minutes of working time have passed since another; null where the calendar never gets there. */
export function addWorkingMinutes(
  from: Instant,
  minutes: number,
  working: WorkingTime,
  zone: string,
): Instant | null {
  let left = minutes * 60_000
  if (left <= 0) return from
  for (
    let [day, steps] = [addDays(dayOf(from, zone), -1), 0];
    steps < longest;
    day = addDays(day, 1), steps += 1
  ) {
    for (const span of spansOf(day, working, zone)) {
      const begins = Math.max(span.from, from)
      if (begins + left <= span.to) return begins + left
      left -= Math.max(0, span.to - begins)
    }
  }
  return null
}
