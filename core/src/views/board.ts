import { addDays, type Day, startOfDay } from '../calendar/day.ts'
import type { Board } from './schema.ts'

/** How many items hold each value of the property a board is arranged by; `late` of them are finished too long ago to be shown. */
export interface Standing {
  readonly value: string | null
  readonly count: number
  readonly late: number
}

/** What a board shows of its query's answers, and what it does not, with why. */
export interface Arrangement {
  readonly columns: readonly { readonly value: string | null; readonly count: number }[]
  /** values without a column, most items first */
  readonly elsewhere: readonly { readonly value: string | null; readonly count: number }[]
  readonly shown: number
  readonly total: number
  readonly finishedLongAgo: number
}

/** Sorts the answers of a board's query into its columns and *elsewhere*: every answer is counted exactly once. */
export function arrange(
  board: Pick<Board, 'columns'>,
  standings: readonly Standing[],
): Arrangement {
  const byValue = new Map(standings.map((standing) => [standing.value, standing]))
  const columns = board.columns.map((value) => {
    const standing = byValue.get(value)
    return { value, count: (standing?.count ?? 0) - (standing?.late ?? 0) }
  })
  const elsewhere = standings
    .filter((standing) => !board.columns.includes(standing.value))
    .map(({ value, count, late }) => ({ value, count: count - late }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count)
  return {
    columns,
    elsewhere,
    shown: columns.reduce((sum, column) => sum + column.count, 0),
    total: standings.reduce((sum, standing) => sum + standing.count, 0),
    finishedLongAgo: standings.reduce((sum, standing) => sum + standing.late, 0),
  }
}

/** The instant before which a finished item is no longer shown on a board; null when all are. */
export const finishedBefore = (
  board: Pick<Board, 'finishedWithin'>,
  today: Day,
  zone: string,
): number | null =>
  board.finishedWithin === null ? null : startOfDay(addDays(today, -board.finishedWithin), zone)

/** The line that says what is not shown and why: “6 are not: 4 stand elsewhere, 2 were finished over 30 days ago”. */
export function notShown(
  arrangement: Pick<Arrangement, 'elsewhere' | 'finishedLongAgo'>,
  finishedWithin: number | null,
): { readonly count: number; readonly words: string } {
  const elsewhere = arrangement.elsewhere.reduce((sum, entry) => sum + entry.count, 0)
  const reasons = [
    ...(elsewhere ? [`${elsewhere} ${elsewhere === 1 ? 'stands' : 'stand'} elsewhere`] : []),
    ...(arrangement.finishedLongAgo
      ? [
          `${arrangement.finishedLongAgo} ${arrangement.finishedLongAgo === 1 ? 'was' : 'were'} finished over ${finishedWithin} days ago`,
        ]
      : []),
  ]
  const count = elsewhere + arrangement.finishedLongAgo
  return {
    count,
    words:
      count === 0
        ? 'nothing is left out'
        : `${count} ${count === 1 ? 'is' : 'are'} not: ${reasons.join(', ')}`,
  }
}
