import { firstIn } from '../known/index.ts'
import { Temporal } from 'temporal-polyfill'
import type { Day, Instant } from './moment.ts'
import { steadyOffset } from './offset.ts'

export type { Day, Instant }
/** Days from `from` to `to`, both included. */
export interface Days {
  readonly from: Day
  readonly to: Day
}

const dayShape = /^\d{4}-\d{2}-\d{2}$/
const instantShape = /^\d{4}-\d{2}-\d{2}T(?:[01]\d|2[0-3]):[0-5]\d:[0-5]\d(?:\.\d+)?Z$/

/** The first and the last day that can be written: what lies beyond has no spelling of four digits. */
export const firstDay: Day = '0001-01-01'
export const lastDay: Day = '9999-12-31'

/** Whether the text is a day of the calendar (`2025-02-29` is not), from 0001-01-01 to 9999-12-31. */
export function isDay(text: string): boolean {
  if (!dayShape.test(text) || text < firstDay) return false
  const date = new Date(`${text}T00:00:00Z`)
  return !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text)
}

/** Whether the text is an RFC 3339 instant in UTC, written with Z. */
export const isInstantText = (text: string): boolean =>
  instantShape.test(text) && isDay(text.slice(0, 10))

/** The instant an RFC 3339 text names, cut to milliseconds. */
export const instantOf = (text: string): Instant => Date.parse(text)

/** The instant as RFC 3339 text in UTC, without milliseconds when there are none. */
export const instantText = (instant: Instant): string =>
  new Date(instant).toISOString().replace('.000Z', 'Z')

const starts = new Map<string, Instant>()

/** The first instant of a day in a zone; where clocks jump over midnight, the first instant that exists. */
export function startOfDay(day: Day, zone: string): Instant {
  const key = `${zone} ${day}`
  let start = starts.get(key)
  if (start === undefined) {
    const ahead = steadyOffset(day, zone)
    start =
      ahead === undefined
        ? Temporal.PlainDate.from(day).toZonedDateTime(zone).startOfDay().epochMilliseconds
        : Date.parse(`${day}T00:00:00Z`) - ahead
    if (starts.size > 20_000) starts.clear()
    starts.set(key, start)
  }
  return start
}

/** The last millisecond of a day in a zone. */
export const endOfDay = (day: Day, zone: string): Instant => startOfDay(addDays(day, 1), zone) - 1

/** The day on which an instant falls in a zone: the day it is in UTC, or the one before or after. */
export function dayOf(instant: Instant, zone: string): Day {
  const day = dayOfUtc(instant)
  if (instant < startOfDay(day, zone)) return addDays(day, -1)
  const next = addDays(day, 1)
  return instant < startOfDay(next, zone) ? day : next
}

const utc = (day: Day): number => Date.parse(`${day}T00:00:00Z`)
/** Beyond the year 9999 a day is written with a sign and six digits; such days serve as ends and are never kept. */
const dayOfUtc = (ms: number): Day => firstIn(new Date(ms).toISOString().split('T'))

/** The day `count` days later (earlier when negative). */
export const addDays = (day: Day, count: number): Day => dayOfUtc(utc(day) + count * 86_400_000)

/** How many days `to` lies after `from`. */
export const daysBetween = (from: Day, to: Day): number =>
  Math.round((utc(to) - utc(from)) / 86_400_000)

/** ISO 8601 weekday, 1 = Monday … 7 = Sunday. */
export const weekday = (day: Day): number => ((new Date(utc(day)).getUTCDay() + 6) % 7) + 1

/** The day `count` months later, cut to the month's last day. */
export function addMonths(day: Day, count: number): Day {
  return Temporal.PlainDate.from(day).add({ months: count }).toString()
}
