import { elementAt } from '../../known/index.ts'
import { type Edit, same } from './change.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { RulebookEntry } from '../document/rules.ts'
import { entriesOf, resolve } from '../rulebook/resolve.ts'

/**
 * The edit by which a rulebook says something of a key: what its parent says already is left unsaid, and what it does not want of
 * its parent is left out.
 *
 * @param entry what is to hold; null where nothing is
 */
export function setEntry(
  document: DefinitionsDocument,
  rulebook: string,
  key: string,
  entry: RulebookEntry | null,
): Edit {
  const path = ['rulebooks', rulebook, 'entries', key]
  const parent = document.rulebooks[rulebook]?.extends
  const inherited = parent ? entriesOf(document, parent).get(key) : undefined
  if (entry === null) return inherited ? { path, after: 'out' } : { path }
  return inherited && same(inherited, entry) ? { path } : { path, after: entry }
}

/** The edits that give entries back to the parent of a rulebook: it says nothing of them any more. */
export const giveBack = (
  document: DefinitionsDocument,
  rulebook: string,
  keys: readonly string[],
): Edit[] =>
  keys
    .filter((key) => Object.hasOwn(document.rulebooks[rulebook]?.entries ?? {}, key))
    .map((key) => ({ path: ['rulebooks', rulebook, 'entries', key] }))

/** The edits that take entries of one rulebook over into another. */
export const takeOver = (
  document: DefinitionsDocument,
  from: string,
  into: string,
  keys: readonly string[],
): Edit[] =>
  keys.map((key) => setEntry(document, into, key, entriesOf(document, from).get(key) ?? null))

/** A rulebook of one's own that begins as another is: a copy of what it says, or one that extends it and changes nothing yet. */
export function rulebookLike(
  document: DefinitionsDocument,
  rulebook: string,
  how: 'copy' | 'extend',
): DefinitionsDocument['rulebooks'][string]['entries'] {
  return how === 'extend' ? {} : { ...document.rulebooks[rulebook]?.entries }
}

/** The entries of a rulebook that stands alone and says what a project really uses: the types it has items of, and what belongs to them. */
export function entriesInUse(
  document: DefinitionsDocument,
  project: string,
  types: readonly string[],
): Record<string, RulebookEntry> {
  const ofOtherTypes = (key: string): boolean =>
    /^(?:type|status|move|form|requirement):/.test(key) &&
    !types.includes(elementAt(key.split(':'), 1))
  return Object.fromEntries(
    [...entriesOf(document, document.projects[project] ?? '')].filter(
      ([key]) => !ofOtherTypes(key),
    ),
  )
}

/** Keys of a rulebook that are its own word: changed, added or left out here. */
export const ownKeys = (document: DefinitionsDocument, rulebook: string): string[] =>
  [...resolve(document, rulebook).values()]
    .filter((resolved) => resolved.origin !== 'inherited')
    .map((resolved) => resolved.key)
