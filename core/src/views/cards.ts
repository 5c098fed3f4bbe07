import { cellFilter } from '../dashboards/cell.ts'
import type { Property } from '../queries/tree/checked.ts'
import type { Board } from './schema.ts'

/** The fields that a board reads of each item: what every card shows, what it is arranged by, and what is chosen for it. */
export const cardFields = ({ by, cards }: Pick<Board, 'by' | 'cards'>): string[] => [
  ...new Set(['title', 'status', 'project', 'changed', 'hold_reason', by, ...cards]),
]

/**
 * The filter of one column of a board: its own items, those finished long ago left out.
 *
 * @param filter the board's query, with identities
 * @param before the instant before which a finished item is no longer shown, as RFC 3339 text; null when all are
 */
export function columnFilter(
  filter: unknown,
  by: Property | undefined,
  value: string | null,
  before: string | null,
): unknown {
  const own = cellFilter(filter, by, value)
  if (before === null) return own
  const done = { property: 'done' }
  const timestamp = before.replace('.000Z', 'Z')
  const lately = {
    op: 'or',
    args: [
      { op: 'isNull', args: [done] },
      { op: '>=', args: [done, { timestamp }] },
    ],
  }
  return own === true ? lately : { op: 'and', args: [own, lately] }
}
