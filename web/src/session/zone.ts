/** The time zone of the workspace: a day is the same for everybody in it, wherever their browser is. */
let zone = 'UTC'
let parts = partsFormat()

function partsFormat(): Intl.DateTimeFormat {
  return new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
  })
}

export function setZone(next: string): void {
  zone = next
  parts = partsFormat()
}

export const zoneNow = (): string => zone

/** A moment as the workspace's clocks show it: `2026-11-25T11:30`. */
export function clockText(moment: Date): string {
  const of = Object.fromEntries(parts.formatToParts(moment).map((part) => [part.type, part.value]))
  return `${of['year']}-${of['month']}-${of['day']}T${of['hour']}:${of['minute']}`
}

/** The day on which a moment falls in the workspace. */
export const dayIn = (moment: Date): string => clockText(moment).slice(0, 10)

const aDay = 86_400_000

/** The moment at which the workspace's clocks show a time; of two, where clocks are turned back, the earlier. A time that is jumped over is as long after midnight as it says. */
export function momentAt(text: string): Date {
  const asUtc = Date.parse(`${text}Z`)
  const ahead = (moment: number): number => Date.parse(`${clockText(new Date(moment))}Z`) - moment
  const [before, after] = [asUtc - ahead(asUtc - aDay), asUtc - ahead(asUtc + aDay)]
  const shown = [before, after].filter((moment) => clockText(new Date(moment)) === text)
  return new Date(shown.length > 0 ? Math.min(...shown) : before)
}

const days = (day: string): number => Date.parse(`${day}T00:00:00Z`) / 86_400_000

/** How many days lie between two days. */
export const daysApart = (from: string, to: string): number => days(to) - days(from)

/** The day so many days after another. */
export const dayAfter = (day: string, count: number): string =>
  new Date((days(day) + count) * 86_400_000).toISOString().slice(0, 10)
