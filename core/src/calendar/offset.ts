import { Temporal } from 'temporal-polyfill'
import type { Day, Instant } from './moment.ts'

/** From when on a zone is so many milliseconds ahead of UTC. */
interface Offset {
  readonly from: Instant
  readonly ahead: number
}

const dayInMilliseconds = 86_400_000

/** The offsets of a zone from some days before a year until some days after it. */
function offsetsAround(year: number, zone: string): Offset[] {
  let at = Temporal.PlainDate.from({ year: year - 1, month: 12, day: 28 }).toZonedDateTime(zone)
  const end = Date.UTC(year + 1, 0, 5)
  const offsets: Offset[] = []
  for (let next: Temporal.ZonedDateTime | null = at; next && next.epochMilliseconds < end;) {
    at = next
    offsets.push({ from: at.epochMilliseconds, ahead: at.offsetNanoseconds / 1_000_000 })
    next = at.getTimeZoneTransition('next')
  }
  return offsets
}

const known = new Map<string, readonly Offset[]>()

/** Zones are looked up year by year between these; what lies outside is rare. */
const [firstYear, lastYear] = [1972, 2100]

/** How far a zone is ahead of UTC around the midnight of a day; undefined where its clocks change within two days of it, or nobody knows. */
export function steadyOffset(day: Day, zone: string): number | undefined {
  const year = Number(day.slice(0, 4))
  if (year < firstYear || year > lastYear) return undefined
  const key = `${zone} ${year}`
  const offsets = known.get(key) ?? offsetsAround(year, zone)
  known.set(key, offsets)
  const midnight = Date.parse(`${day}T00:00:00Z`)
  const place = offsets.findLastIndex(({ from }) => from <= midnight)
  const isNear = ({ from }: Offset): boolean => Math.abs(from - midnight) <= 2 * dayInMilliseconds
  return offsets.slice(1).some(isNear) ? undefined : offsets[place]?.ahead
}
