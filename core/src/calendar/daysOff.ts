import { addDays, type Day, daysBetween, isDay } from './day.ts'

/** Days on which nobody works although the hours say so. */
export interface DayOff {
  readonly day: Day
  /** the last day where there are several */
  readonly until?: Day
  /** whether the same days of the month are off in every year */
  readonly yearly?: true
  readonly title: string
}

/** No span of days off is longer: a year. */
const longestOff = 366

/** What is wrong with a day off, in words; undefined for nothing. */
export function wrongDayOff({ day, until }: DayOff): string | undefined {
  if (!isDay(day)) return `“${day}” is no day.`
  if (until === undefined) return undefined
  if (!isDay(until)) return `“${until}” is no day.`
  if (until < day) return `${until} lies before ${day}.`
  return daysBetween(day, until) < longestOff
    ? undefined
    : `From ${day} to ${until} is more than a year.`
}

interface Index {
  readonly days: ReadonlySet<Day>
  /** of every year, as `MM-DD` */
  readonly yearly: ReadonlySet<string>
}

/** Days off are looked at day by day over years, and are the same all the time. */
const indexes = new WeakMap<readonly DayOff[], Index>()

function indexOf(daysOff: readonly DayOff[]): Index {
  const known = indexes.get(daysOff)
  if (known) return known
  const [days, yearly] = [new Set<Day>(), new Set<string>()]
  for (const dayOff of daysOff)
    for (const day of daysIn(dayOff)) {
      if (dayOff.yearly) yearly.add(day.slice(-5))
      else days.add(day)
    }
  const made = { days, yearly }
  indexes.set(daysOff, made)
  return made
}

/** The days of one entry as it is written, whatever repeats. */
export function daysIn({ day, until = day }: DayOff): Day[] {
  const days: Day[] = []
  for (let at = day; at <= until && days.length < longestOff; at = addDays(at, 1)) days.push(at)
  return days
}

/** Whether a day is one of the days off. A repeated 29 February is off in leap years alone. */
export function isDayOff(day: Day, daysOff: readonly DayOff[]): boolean {
  const { days, yearly } = indexOf(daysOff)
  return days.has(day) || yearly.has(day.slice(-5))
}

/** The title of the first entry that makes a day off; undefined where none does. */
export const titleOfDayOff = (day: Day, daysOff: readonly DayOff[]): string | undefined =>
  daysOff.find((dayOff) => isDayOff(day, [dayOff]))?.title
