import type { Calendar } from '@bluestem/core/calendar'

const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** The working week, days of the same hours together: “Mon–Fri 08:00–17:00”. */
export function weekWords(one: Calendar): string {
  const stretches: { from: string; to: string; hours: string }[] = []
  dayNames.forEach((day, index) => {
    const hours = (one.hours[String(index + 1)] ?? [])
      .map(([from, to]) => `${from}–${to}`)
      .join(', ')
    const last = stretches.at(-1)
    if (last?.hours === hours) last.to = day
    else stretches.push({ from: day, to: day, hours })
  })
  return (
    stretches
      .filter(({ hours }) => hours)
      .map(({ from, to, hours }) => `${from === to ? from : `${from}–${to}`} ${hours}`)
      .join(' · ') || 'nobody ever works'
  )
}
