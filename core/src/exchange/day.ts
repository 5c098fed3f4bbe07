import { entryOf } from '../known/index.ts'
import { isDay } from '../calendar/day.ts'

/** The orders in which files write a day: Y, M and D as they follow each other. */
export const dayOrders = ['YMD', 'DMY', 'MDY'] as const
export type DayOrder = (typeof dayOrders)[number]

const shapes: Readonly<Record<DayOrder, RegExp>> = {
  YMD: /^(?<year>\d{4})[-/.](?<month>\d{1,2})[-/.](?<day>\d{1,2})$/,
  DMY: /^(?<day>\d{1,2})[-/.](?<month>\d{1,2})[-/.](?<year>\d{4})$/,
  MDY: /^(?<month>\d{1,2})[-/.](?<day>\d{1,2})[-/.](?<year>\d{4})$/,
}

/** A day as a file writes it, in ISO 8601; undefined where it is none in that order. */
export function readDayAs(text: string, order: DayOrder): string | undefined {
  const found = shapes[order].exec(text.trim())?.groups
  if (!found) return undefined
  const twoDigits = (part: string): string => entryOf(found, part).padStart(2, '0')
  const day = `${entryOf(found, 'year')}-${twoDigits('month')}-${twoDigits('day')}`
  return isDay(day) ? day : undefined
}

/** The order in which all of these texts are days; undefined where there is none. Of several that fit, day before month. */
export const detectDayOrder = (texts: readonly string[]): DayOrder | undefined =>
  texts.length === 0
    ? undefined
    : dayOrders.find((order) => texts.every((text) => readDayAs(text, order) !== undefined))
