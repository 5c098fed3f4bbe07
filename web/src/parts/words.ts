/** Two letters for a person. */
export const initials = (name: string): string => name.split(/\s+/).filter(Boolean).map((part) => part[0]).slice(0, 2).join('').toUpperCase()

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })
const dayWithYear = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** A day as people write it: with its year when that is not this one. */
export function dayWords(text: string, now = new Date()): string {
  const date = new Date(text.length === 10 ? `${text}T12:00:00` : text)
  return (date.getFullYear() === now.getFullYear() ? day : dayWithYear).format(date)
}

/** A moment: its day, and its time. */
export const momentWords = (text: string, now = new Date()): string => `${dayWords(text, now)} ${time.format(new Date(text))}`

/** How long ago, roughly: today, yesterday, 5 days ago, or the day. */
export function agoWords(text: string, now = new Date()): string {
  const days = Math.floor((now.getTime() - new Date(text).getTime()) / 86_400_000)
  if (days < 1) return 'today'
  if (days === 1) return 'yesterday'
  return days < 30 ? `${days} days ago` : dayWords(text, now)
}

/** A number with thousands set apart; at most two decimals. */
export const numberWords = (value: number): string => value.toLocaleString('en', { maximumFractionDigits: 2 })

/** “1 item”, “2 items”. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${numberWords(count)} ${count === 1 ? one : many}`

/** The first few of many, and how many more there are: “Fleet Yard, Piers and Shore and 45 more”. */
export const firstOf = (all: readonly string[], most: number): string => `${all.slice(0, most).join(', ')}${all.length > most ? ` and ${numberWords(all.length - most)} more` : ''}`
