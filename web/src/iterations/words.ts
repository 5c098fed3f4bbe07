import type { IterationAnswer, PlanAnswer } from '@bluestem/core/iterations'
import { counted, dayWords, numberWords } from '../parts/words.ts'

/** From which day to which an iteration or a release goes. */
export const daysWords = (
  { start, end }: Pick<IterationAnswer, 'start' | 'end'>,
  now: Date,
): string => {
  if (start && end) return `${dayWords(start, now)} – ${dayWords(end, now)}`
  if (end) return `until ${dayWords(end, now)}`
  return start ? `from ${dayWords(start, now)}` : 'no days yet'
}

type Sum = PlanAnswer['outcome']['inside']

/** The sums of estimates, each with its unit; unlike units stand beside each other. */
export const sumWords = ({ sums }: Sum): string =>
  sums.map(({ unit, sum }) => `${numberWords(sum)} ${unit}`).join(', ')

/** How what is planned compares with what can be worked, where both count the same. */
export function capacityWords(
  { inside }: PlanAnswer['outcome'],
  capacity: PlanAnswer['capacity'],
): string {
  if (!capacity) return ''
  const hours = inside.sums.find(({ unit }) => unit === 'hours')
  const days = inside.sums.find(({ unit }) => unit === 'days')
  const parts = [
    ...(hours ? [`${numberWords(hours.sum)} of ${numberWords(capacity.hours)} hours`] : []),
    ...(days ? [`${numberWords(days.sum)} of ${counted(capacity.days, 'day')}`] : []),
  ]
  return parts.join(', ')
}

/** Whether more is planned than can be worked, in any unit that both count. */
export function isOverCapacity(
  { inside }: PlanAnswer['outcome'],
  capacity: PlanAnswer['capacity'],
): boolean {
  const can: Readonly<Record<string, number>> = capacity
    ? { hours: capacity.hours, days: capacity.days }
    : {}
  return inside.sums.some(({ unit, sum }) => sum > (can[unit] ?? Infinity))
}
