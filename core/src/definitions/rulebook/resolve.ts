import { entryOf, valueFor } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { RulebookEntry } from '../document/rules.ts'

/** Where an entry of a rulebook comes from. */
export type Origin = 'inherited' | 'changed' | 'added' | 'left out'

/** One entry as a rulebook has it. */
export interface ResolvedEntry {
  readonly key: string
  /** what holds; for an entry that is left out, what would hold otherwise */
  readonly entry: RulebookEntry
  readonly origin: Origin
  /** the rulebook that says so */
  readonly from: string
  /** what the parent has under this key, where it has something */
  readonly parent?: RulebookEntry
}

/** A rulebook and those it extends, nearest first. A circle is cut where it closes; `validate` reports it. */
export function chainOf(document: DefinitionsDocument, rulebook: string): string[] {
  const chain: string[] = []
  for (
    let id: string | null | undefined = rulebook;
    id && document.rulebooks[id] && !chain.includes(id);
    id = document.rulebooks[id]?.extends
  )
    chain.push(id)
  return chain
}

/** The rulebooks that rest on one, itself included. */
export const restingRulebooks = (document: DefinitionsDocument, rulebook: string): string[] =>
  Object.keys(document.rulebooks).filter((id) => chainOf(document, id).includes(rulebook))

const resolved = new WeakMap<DefinitionsDocument, Map<string, ReadonlyMap<string, ResolvedEntry>>>()

/**
 * Every entry of a rulebook with where it comes from. Documents are never changed, so what was resolved once is kept for as long
 * as its document is.
 */
export function resolve(
  document: DefinitionsDocument,
  rulebook: string,
): ReadonlyMap<string, ResolvedEntry> {
  const known = resolved.get(document) ?? new Map<string, ReadonlyMap<string, ResolvedEntry>>()
  resolved.set(document, known)
  let entries = known.get(rulebook)
  if (!entries) {
    entries = resolveAnew(document, rulebook)
    known.set(rulebook, entries)
  }
  return entries
}

function resolveAnew(
  document: DefinitionsDocument,
  rulebook: string,
): ReadonlyMap<string, ResolvedEntry> {
  const entries = new Map<string, ResolvedEntry>()
  for (const id of chainOf(document, rulebook).reverse()) {
    for (const [key, inherited] of entries) {
      if (inherited.origin === 'left out') entries.delete(key)
      else
        entries.set(key, {
          key,
          entry: inherited.entry,
          origin: 'inherited',
          from: inherited.from,
          parent: inherited.entry,
        })
    }
    for (const [key, own] of Object.entries(entryOf(document.rulebooks, id).entries)) {
      const parent = entries.get(key)?.entry
      if (own !== 'out')
        entries.set(key, {
          key,
          entry: own,
          origin: parent ? 'changed' : 'added',
          from: id,
          ...(parent ? { parent } : {}),
        })
      else if (parent)
        entries.set(key, { key, entry: parent, origin: 'left out', from: id, parent })
    }
  }
  return entries
}

const typeOf = (rest: string): string => rest.slice(0, rest.indexOf(':'))

/** What an entry rests on, by its kind, from what follows the kind in its key. Splitting keys would take thousands of them twice as long. */
const restsOn: Record<string, (rest: string) => readonly string[]> = {
  status: (rest) => [`type:${typeOf(rest)}`],
  form: (rest) => [`type:${typeOf(rest)}`],
  move: (rest) => {
    const end = rest.lastIndexOf(':')
    return [`status:${rest.slice(0, end)}`, `status:${typeOf(rest)}${rest.slice(end)}`]
  },
  requirement: (rest) => [`status:${rest}`],
}

/** The keys that an entry needs beside it: a move needs both its statuses, a status its type. */
export function neededBy(key: string): readonly string[] {
  const end = key.indexOf(':')
  if (end < 0) return []
  return restsOn[key.slice(0, end)]?.(key.slice(end + 1)) ?? []
}

const inForce = new WeakMap<
  ReadonlyMap<string, ResolvedEntry>,
  ReadonlyMap<string, RulebookEntry>
>()

/** The entries in force in a rulebook: its own over those it inherits, without what it leaves out and what rests on that. */
export function entriesOf(
  document: DefinitionsDocument,
  rulebook: string,
): ReadonlyMap<string, RulebookEntry> {
  const all = resolve(document, rulebook)
  let entries = inForce.get(all)
  if (!entries) {
    entries = standing(all)
    inForce.set(all, entries)
  }
  return entries
}

/** What is neither left out nor rests on what is. Thousands of entries rest on a few types and statuses, so each is looked at once. */
function standing(all: ReadonlyMap<string, ResolvedEntry>): ReadonlyMap<string, RulebookEntry> {
  const seen = new Map<string, boolean>()
  const stands = (key: string): boolean => {
    let known = seen.get(key)
    if (known === undefined) {
      const entry = all.get(key)
      known = entry !== undefined && entry.origin !== 'left out' && neededBy(key).every(stands)
      seen.set(key, known)
    }
    return known
  }
  const entries = new Map<string, RulebookEntry>()
  for (const { key, entry } of all.values()) if (stands(key)) entries.set(key, entry)
  return entries
}

/** One key that two rulebooks have differently: what each has in force, undefined where it has nothing. */
export interface Compared {
  readonly key: string
  readonly first?: RulebookEntry
  readonly second?: RulebookEntry
}

/** What two rulebooks have differently, by key. */
export function compare(
  document: DefinitionsDocument,
  first: string,
  second: string,
  same: (a: unknown, b: unknown) => boolean,
): Compared[] {
  const [a, b] = [entriesOf(document, first), entriesOf(document, second)]
  const keys = [...new Set([...a.keys(), ...b.keys()])].sort()
  return keys
    .filter((key) => !same(a.get(key), b.get(key)))
    .map((key) => ({
      key,
      ...(a.has(key) ? { first: valueFor(a, key) } : {}),
      ...(b.has(key) ? { second: valueFor(b, key) } : {}),
    }))
}

/** The projects that a rulebook's word on a key reaches: those that follow it or one that extends it, with nothing nearer said of the key. */
export function projectsReached(
  document: DefinitionsDocument,
  rulebook: string,
  key: string,
): string[] {
  const takesIt = (follows: string): boolean => {
    const chain = chainOf(document, follows)
    const at = chain.indexOf(rulebook)
    return (
      at >= 0 &&
      !chain
        .slice(0, at)
        .some((nearer) => Object.hasOwn(entryOf(document.rulebooks, nearer).entries, key))
    )
  }
  // Hundreds of projects follow few rulebooks.
  const taking = new Set([...new Set(Object.values(document.projects))].filter(takesIt))
  return Object.keys(document.projects).filter((project) =>
    taking.has(entryOf(document.projects, project)),
  )
}
