import { same } from './change.ts'
import { apply, diff, type Difference } from './diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'

/** The same part changed in two ways; each side as its own difference from the common base. */
export interface Clash {
  readonly path: readonly string[]
  readonly mine: readonly Difference[]
  readonly theirs: readonly Difference[]
}

export type Merged =
  | { readonly ok: true; readonly document: DefinitionsDocument }
  | { readonly ok: false; readonly clashes: readonly Clash[] }

const begins = (path: readonly string[], start: readonly string[]): boolean =>
  start.length <= path.length && start.every((key, index) => path[index] === key)
const touch = (a: Difference, b: Difference): boolean =>
  begins(a.path, b.path) || begins(b.path, a.path)

/**
 * Brings two documents that were made from one base together, by identity. What only one side changed is taken; what both
 * changed alike is taken once; what they changed differently is a clash. Symmetric where nothing clashes.
 */
export function merge(
  base: DefinitionsDocument,
  mine: DefinitionsDocument,
  theirs: DefinitionsDocument,
): Merged {
  const [own, others] = [diff(base, mine), diff(base, theirs)]
  const clashes = clashesOf(own, others)
  return clashes.length > 0 ? { ok: false, clashes } : { ok: true, document: apply(theirs, own) }
}

function clashesOf(own: readonly Difference[], others: readonly Difference[]): Clash[] {
  const clashes = new Map<string, Clash>()
  for (const mine of own) {
    for (const theirs of others) {
      if (
        !touch(mine, theirs) ||
        (mine.path.length === theirs.path.length && same(mine.after, theirs.after))
      )
        continue
      const path = mine.path.length < theirs.path.length ? mine.path : theirs.path
      const key = JSON.stringify(path)
      const known = clashes.get(key) ?? { path, mine: [], theirs: [] }
      clashes.set(key, { path, mine: with_(known.mine, mine), theirs: with_(known.theirs, theirs) })
    }
  }
  return [...clashes.values()]
}

const with_ = (list: readonly Difference[], difference: Difference): readonly Difference[] =>
  list.includes(difference) ? list : [...list, difference]
