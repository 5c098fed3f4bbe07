import { certain, firstIn, valueFor } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import type { ItemAnswer } from '@bluestem/core/queries'
import { reactive } from 'vue'
import { call } from '../api/http.ts'
import { columnKey } from './boardCards.ts'

/**
 * Where a card may go: by its type's flow for statuses, anywhere for other fields.
 *
 * @param board the property whose values are the columns, and those values
 */
export function useVerdicts(
  board: () => { readonly by: string; readonly values: readonly (string | null)[] },
) {
  const offers = new Map<string, Promise<OffersAnswer>>()
  /** for each place, why a drop there is refused; none where it is allowed */
  const verdicts = reactive<Record<string, string>>({})

  /** The moves of an item's type, as its project's flows have them. */
  async function typeOf({ ref, type }: ItemAnswer) {
    const code = firstIn(ref.split('/'))
    if (!offers.has(code))
      offers.set(code, call('GET /projects/{code}/offers', { params: { code } }))
    const { types } = await valueFor(offers, code)
    return types.find((entry) => entry.id === type.id)
  }

  /** Judges every place for a card. */
  async function judge(item: ItemAnswer): Promise<void> {
    for (const name of Object.keys(verdicts)) delete verdicts[name]
    if (board().by !== 'status') return
    const type = await typeOf(item)
    if (!type) return
    const from = certain(item.status, 'status of a card')
    const allowed = type.moves
      .filter((move) => move.startsWith(`${from.id}:`))
      .map((move) => move.slice(from.id.length + 1))
    const names = type.statuses.filter(({ id }) => allowed.includes(id)).map(({ title }) => title)
    const words = `Not from ${from.title}. It may go to ${names.length ? names.join(', ') : 'nowhere'}.`
    for (const to of board().values)
      if (to !== from.id && (to === null || !allowed.includes(to))) verdicts[columnKey(to)] = words
  }

  return { verdicts, judge }
}
