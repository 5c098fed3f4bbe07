import { dayIn, daysApart, zoneNow } from '../session/zone.ts'

/** Two letters for a person. */
export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => part[0])
    .slice(0, 2)
    .join('')
    .toUpperCase()

/** Formats a moment as the workspace's clocks show it. A day alone stands at noon in UTC, so that it stays that day. */
const format = (options: Intl.DateTimeFormatOptions, moment: Date, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone }).format(moment)

/** A day as people write it: with its year when that is not this one. */
export function dayWords(text: string, now = new Date()): string {
  const alone = text.length === 10
  const date = new Date(alone ? `${text}T12:00:00Z` : text)
  const sameYear = (alone ? text : dayIn(date)).slice(0, 4) === dayIn(now).slice(0, 4)
  return format(
    { day: 'numeric', month: 'short', ...(sameYear ? {} : { year: 'numeric' }) },
    date,
    alone ? 'UTC' : zoneNow(),
  )
}

/** A moment: its day, and its time. */
export const momentWords = (text: string, now = new Date()): string =>
  `${dayWords(text, now)} ${format({ hour: '2-digit', minute: '2-digit' }, new Date(text), zoneNow())}`

/** How long ago, in days of the workspace: today, yesterday, 5 days ago, or the day. */
export function agoWords(text: string, now = new Date()): string {
  const days = daysApart(dayIn(new Date(text)), dayIn(now))
  if (days < 1) return 'today'
  if (days === 1) return 'yesterday'
  return days < 30 ? `${days} days ago` : dayWords(text, now)
}

/** How long ago something was counted: “40 s ago”, “12 min ago”, “3 h ago”. @param seconds at least 0 */
export function secondsAgoWords(seconds: number): string {
  if (seconds < 60) return `${Math.round(seconds)} s ago`
  const minutes = Math.round(seconds / 60)
  return minutes < 60 ? `${minutes} min ago` : `${Math.round(minutes / 60)} h ago`
}

const numbers = new Intl.NumberFormat('en', { maximumFractionDigits: 2 })

/** A number with thousands set apart; at most two decimals. */
export const numberWords = (value: number): string => numbers.format(value)

/** Working hours left of a time limit: “5.5 h”, “past by 3 h”. */
export const hoursLeftWords = (hours: number): string =>
  hours < 0 ? `past by ${numberWords(tenths(-hours))} h` : `${numberWords(tenths(hours))} h`

const tenths = (value: number): number => Math.round(value * 10) / 10

/** “1 item”, “2 items”. */
export const counted = (count: number, text: string, many = `${text}s`): string =>
  `${numberWords(count)} ${count === 1 ? text : many}`

/** The first few of many, and how many more there are: “Site, Office and 45 more”. */
export const firstOf = (all: readonly string[], most: number): string =>
  `${all.slice(0, most).join(', ')}${all.length > most ? ` and ${numberWords(all.length - most)} more` : ''}`
