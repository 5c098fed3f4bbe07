import type { RelativeDay } from './content.ts'
import { addDays, type Day } from '../calendar/day.ts'
import { addWorkingDays, type WorkingTime } from '../calendar/working.ts'

export const isRelative = (value: unknown): value is RelativeDay =>
  typeof value === 'object' && value !== null && 'in' in value && 'unit' in value

/** How far a day may lie from the one on which a template is used: a hundred years. */
export const furthest = 36_525

export const isWithinReach = ({ in: count, unit }: RelativeDay): boolean =>
  Number.isInteger(count) &&
  Math.abs(count) <= furthest &&
  (unit === 'days' || unit === 'working days')

export function dayOfRelative(
  { in: given, unit }: RelativeDay,
  { today, working }: { readonly today: Day; readonly working: WorkingTime },
): Day {
  const count = Math.max(-furthest, Math.min(furthest, Math.trunc(Number(given)) || 0))
  return unit === 'days' ? addDays(today, count) : addWorkingDays(today, count, working)
}
