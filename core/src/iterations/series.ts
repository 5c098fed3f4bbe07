import { certain } from '../known/index.ts'
import { Temporal } from 'temporal-polyfill'
import { addDays, type Day, weekday } from '../calendar/index.ts'

/** Iterations that follow each other without a gap, all of the same length. */
export interface Series {
  /** their titles by rule: `{n}` is the number of each, `{week}` and `{year}` the ISO week its first day is in */
  readonly name: string
  /** the number of the first */
  readonly number: number
  readonly first: Day
  readonly weeks: number
  readonly count: number
}

export interface PlannedSpan {
  readonly title: string
  readonly start: Day
  /** its last day */
  readonly end: Day
}

/** The year and the number of the week that a day is in (ISO 8601). */
export function isoWeek(day: Day): { readonly year: number; readonly week: number } {
  const date = Temporal.PlainDate.from(day)
  return {
    year: certain(date.yearOfWeek, 'year of a week'),
    week: certain(date.weekOfYear, 'number of a week'),
  }
}

/** The spans of a series, the first first. */
export function spansOf({ name, number, first, weeks, count }: Series): PlannedSpan[] {
  return Array.from({ length: count }, (_, index) => {
    const start = addDays(first, index * weeks * 7)
    const { year, week } = isoWeek(start)
    const title = name
      .replaceAll('{n}', String(number + index))
      .replaceAll('{week}', String(week).padStart(2, '0'))
      .replaceAll('{year}', String(year))
    return { title, start, end: addDays(start, weeks * 7 - 1) }
  })
}

/** What a series could go on with: the day after the last span, else the next Monday. */
export function nextStart(spans: readonly { readonly end: Day | null }[], today: Day): Day {
  const ends = spans.flatMap(({ end }) => end ?? []).toSorted()
  const last = ends.at(-1)
  return last && last >= today ? addDays(last, 1) : addDays(today, (8 - weekday(today)) % 7)
}

/** How a series goes on after what is there: by the rule of the last title, with the number and from the day after it. */
export function seriesAfter(
  spans: readonly { readonly title: string; readonly end: Day | null }[],
  unnamed: string,
  today: Day,
): Pick<Series, 'name' | 'number' | 'first'> {
  const last = spans.toSorted((a, b) => (a.end ?? '').localeCompare(b.end ?? '')).at(-1)
  const found = /^(.*?)(\d+)(\D*)$/.exec(last?.title ?? '')
  return {
    name: found ? `${found[1]}{n}${found[3]}` : unnamed,
    number: found ? Number(found[2]) + 1 : spans.length + 1,
    first: nextStart(spans, today),
  }
}

/** Whether two spans have a day in common; one without both days has none. */
export const overlap = (
  entry: { readonly start: Day | null; readonly end: Day | null },
  other: { readonly start: Day | null; readonly end: Day | null },
): boolean =>
  entry.start !== null &&
  entry.end !== null &&
  other.start !== null &&
  other.end !== null &&
  entry.start <= other.end &&
  other.start <= entry.end
