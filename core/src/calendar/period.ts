import { addDays, addMonths, type Day, type Days, daysBetween, weekday } from './day.ts'

export const periods = ['day', 'week', 'month', 'quarter', 'year'] as const
export type Period = (typeof periods)[number]

/**
 * The days of the period that lies `offset` periods from the one holding `today`.
 * Weeks are ISO 8601 weeks, Monday to Sunday; quarters begin in January, April, July and October.
 */
export function periodAround(period: Period, today: Day, offset = 0): Days {
  const from = startOfPeriod(period, today, offset)
  const next = startOfPeriod(period, from, 1)
  return { from, to: addDays(next, -1) }
}

function startOfPeriod(period: Period, today: Day, offset: number): Day {
  if (period === 'day') return addDays(today, offset)
  if (period === 'week') return addDays(today, 1 - weekday(today) + 7 * offset)
  const [year, month] = [today.slice(0, 4), Number(today.slice(5, 7))]
  if (period === 'month') return addMonths(`${today.slice(0, 7)}-01`, offset)
  if (period === 'quarter')
    return addMonths(`${year}-${String(month - ((month - 1) % 3)).padStart(2, '0')}-01`, 3 * offset)
  return addMonths(`${year}-01-01`, 12 * offset)
}

/** How many periods a span touches; told without laying them out, for a span may be thousands of years. 0 when it ends before it begins. */
export function countSteps(period: Period, { from, to }: Days): number {
  if (to < from) return 0
  if (period === 'day') return daysBetween(from, to) + 1
  if (period === 'week')
    return daysBetween(startOfPeriod('week', from, 0), startOfPeriod('week', to, 0)) / 7 + 1
  const months = { month: 1, quarter: 3, year: 12 }[period]
  const place = (day: Day): number =>
    Math.floor((Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1) / months)
  return place(to) - place(from) + 1
}

/**
 * The steps of a span: the first day of each period touched by `span`, ascending.
 * The first step is the period that holds `span.from`, even where it began earlier.
 */
export function stepsOf(period: Period, span: Days): Day[] {
  const first = startOfPeriod(period, span.from, 0)
  return Array.from({ length: countSteps(period, span) }, (_, index) =>
    startOfPeriod(period, first, index),
  )
}
