import type { Calendar, DayOff } from '@bluestem/core/calendar'
import { dayWords } from '../../parts/words.ts'

const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** The working week, days of the same hours together: “Mon–Fri 08:00–17:00”. */
export function weekWords(calendar: Calendar): readonly string[] {
  const stretches: { from: string; to: string; hours: string }[] = []
  dayNames.forEach((day, index) => {
    const hours = (calendar.hours[String(index + 1)] ?? [])
      .map(([from, to]) => `${from}–${to}`)
      .join(', ')
    const last = stretches.at(-1)
    if (last?.hours === hours) last.to = day
    else stretches.push({ from: day, to: day, hours })
  })
  const worked = stretches.filter(({ hours }) => hours)
  if (worked.length === 0) return ['nobody ever works']
  return worked.map(({ from, to, hours }) => `${from === to ? from : `${from}–${to}`} ${hours}`)
}

/** When a day off is: “24 Dec to 2 Jan 2027, every year”. */
export const offWords = ({ day, until, yearly }: DayOff, now: Date): string =>
  [
    until === undefined ? dayWords(day, now) : `${dayWords(day, now)} to ${dayWords(until, now)}`,
    ...(yearly ? ['every year'] : []),
  ].join(', ')
