import type { BulkAnswer, BulkChange, BulkItems } from '@bluestem/core/bulk'
import { call } from '../api/http.ts'
import type { Chosen } from '../parts/chosen.ts'
import { counted } from '../parts/words.ts'

/** The items that are chosen in a list of the answers of a filter. */
export const itemsOf = ({ all, refs }: Chosen, filter: unknown): BulkItems =>
  all ? { filter, kept: true, except: [...refs] } : { refs: [...refs] }

/** How long is waited between two looks at how far a change is, in milliseconds: short at first, for few items are done at once. */
const pauses = [100, 200, 400]
const longest = 1000

/**
 * Begins a change of many items and tells how far it is until it is over.
 *
 * @param tell is called with each look
 */
export async function carryOut(
  items: BulkItems,
  change: BulkChange,
  total: number,
  tell: (bulk: BulkAnswer) => void,
): Promise<BulkAnswer> {
  return await follow(await call('POST /items/bulk', { body: { items, change, total } }), tell)
}

/** Undoes a change of many items, and tells how far that is until it is over. */
export async function undo(id: string, tell: (bulk: BulkAnswer) => void): Promise<BulkAnswer> {
  return await follow(await call('POST /bulk/{id}/undo', { params: { id } }), tell)
}

/** Looks at a change of many items again and again until it is over. */
export async function follow(
  begun: BulkAnswer,
  tell: (bulk: BulkAnswer) => void,
): Promise<BulkAnswer> {
  let bulk = begun
  for (let look = 0; ; look += 1) {
    tell(bulk)
    if (bulk.state === 'done' || bulk.state === 'cancelled') return bulk
    await new Promise((done) => window.setTimeout(done, pauses[look] ?? longest))
    bulk = await call('GET /bulk/{id}', { params: { id: bulk.id } })
  }
}

/** What became of the items, in words. */
export function outcomeWords({ state, changed, same, refused, takenBack }: BulkAnswer): string {
  if (state === 'cancelled')
    return takenBack > 0
      ? `Cancelled; ${counted(takenBack, 'item')} ${takenBack === 1 ? 'is' : 'are'} as before.`
      : 'Cancelled; nothing was changed.'
  const left = refused.reduce((sum, entry) => sum + entry.count, 0)
  return [
    `${counted(changed, 'item')} changed`,
    ...(same > 0 ? [`${same} like that already`] : []),
    ...(left > 0 ? [`${left} refused`] : []),
  ]
    .join(', ')
    .concat('.')
}
