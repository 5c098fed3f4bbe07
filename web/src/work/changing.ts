import type { ItemAnswer } from '@bluestem/core/queries'
import type { WholeItemAnswer } from '@bluestem/core/work'
import type { BodyOf } from '@bluestem/core/contract'
import { ApiProblem, call, partsOf } from '../api/http.ts'
import { heldIds } from '../parts/heldIds.ts'
import { valueOf } from '../parts/valueOf.ts'
import { changedMeanwhile } from './changedMeanwhile.ts'

/** A change of an item as the API takes it: what is built in by its handle, other fields apart. */
export type ItemGiven = BodyOf<'PATCH /items/{code}/{number}'>

/** A value that two people changed at once. */
export interface Clash {
  readonly handle: string
  /** what one gave, as the API takes it */
  readonly mine: unknown
  /** what stands there now, as the API shows it */
  readonly theirs: unknown
}

/** What became of a change: it is made, or somebody changed the same meanwhile, and nothing is. */
export type Changed =
  | { readonly ok: true; readonly item: ItemAnswer }
  | {
      readonly ok: false
      readonly item: WholeItemAnswer
      readonly clashes: readonly Clash[]
      /** who was faster, and what they changed */
      readonly words: string
    }

/** What the API takes for a value as it was shown: identities of choices. */
export function plain(value: unknown): unknown {
  if (value === null || value === undefined) return null
  return Array.isArray(value) ? heldIds(value) : heldIds(value)[0]
}

const valuesIn = ({ fields, comment: _, ...builtIn }: ItemGiven): [string, unknown][] => [
  ...Object.entries(builtIn),
  ...Object.entries(fields ?? {}),
]

/** A value as text that tells equal ones: numbers are given as text and shown as numbers; several values have no order. */
function text(value: unknown): string {
  const held = plain(value)
  if (Array.isArray(held)) return JSON.stringify(held.map(String).sort())
  return JSON.stringify(typeof held === 'number' ? String(held) : held)
}
/** Whether two values are the same, each as it was given or as it is shown. */
export const isSame = (entry: unknown, other: unknown): boolean =>
  text(entry) === text(other) || (text(entry) === '[]' && text(other) === 'null')

/** Where an item holds neither what whoever changes it saw there nor what they give. */
export function clashesOf(given: ItemGiven, seen: ItemGiven, item: ItemAnswer): Clash[] {
  const before = new Map(valuesIn(seen))
  return valuesIn(given).flatMap(([handle, mine]) => {
    const theirs = valueOf(item, handle) ?? null
    const isMeant = !before.has(handle) || isSame(theirs, before.get(handle))
    return isMeant || isSame(theirs, mine) ? [] : [{ handle, mine, theirs }]
  })
}

/** What somebody has seen once they looked at what others made of the same values. */
export function withTheirs(seen: ItemGiven, clashes: readonly Clash[]): ItemGiven {
  const theirs = new Map(clashes.map((clash) => [clash.handle, plain(clash.theirs)]))
  const known = (values: object): Record<string, unknown> =>
    Object.fromEntries(
      Object.entries(values).map(([handle, value]: [string, unknown]) => [
        handle,
        theirs.has(handle) ? theirs.get(handle) : value,
      ]),
    )
  return { ...known(seen), ...(seen.fields ? { fields: known(seen.fields) } : {}) }
}

/** So often a change is tried anew that others were faster than, each time beside what it changes. */
const mostTries = 5

/**
 * Changes an item, whatever others changed beside the same values meanwhile.
 *
 * @param seen what the values that are changed were when whoever changes them began
 * @param item the item as it was last read
 */
export async function changeItem(
  item: ItemAnswer & { readonly etag?: string },
  given: ItemGiven,
  seen: ItemGiven,
): Promise<Changed> {
  const params = partsOf(item.ref)
  let match = item.etag ?? ''
  for (let tries = 1; ; tries += 1) {
    try {
      const changed = await call('PATCH /items/{code}/{number}', { params, body: given, match })
      return { ok: true, item: changed }
    } catch (error) {
      if (!(error instanceof ApiProblem) || error.status !== 412 || tries === mostTries) throw error
      const now = await call('GET /items/{code}/{number}', { params })
      const clashes = clashesOf(given, seen, now)
      if (clashes.length > 0)
        return { ok: false, item: now, clashes, words: changedMeanwhile(error) }
      match = now.etag
    }
  }
}
