import { firstIn } from '../known/index.ts'
import {
  type DefinitionsDocument,
  inOrder,
  orderBetween,
  type Section,
  sections,
} from '../definitions/index.ts'

interface Entry {
  readonly order: string
  readonly title: string
}
type Entries = Readonly<Record<string, Entry>>
type Taken = ReadonlyMap<string, string>

/** What must be the same, beside the title, for two entries to mean the same. */
const meaning: Partial<Record<Section, readonly string[]>> = {
  types: ['tier'],
  fields: ['handle', 'kind'],
  statuses: ['phase', 'queue'],
  priorities: ['urgency'],
}
/** What is a whole of its own, so that two of the same title are two. */
const wholes: ReadonlySet<Section> = new Set(['ladders', 'limits', 'rulebooks'])

const plain = (title: string): string => title.trim().toLowerCase()

const entriesIn = (document: DefinitionsDocument, section: Section): Entries => document[section]

/** What an entry says under a name, as text. */
function valueOf(entry: Entry, name: string): string | undefined {
  const found = Object.entries(entry).find(([key]) => key === name)
  return found && String(found[1])
}
const valuesOf = (entry: Entry, names: readonly string[]): string =>
  JSON.stringify(names.map((name) => valueOf(entry, name)))

/** Which entries are there already: under their own identity, or under another with the same title and meaning. */
function alreadyThere(document: DefinitionsDocument, starter: DefinitionsDocument): Taken {
  const taken = new Map<string, string>()
  for (const section of sections) {
    const present = Object.entries(entriesIn(document, section))
    const alike = meaning[section] ?? []
    for (const [id, entry] of Object.entries(entriesIn(starter, section))) {
      const twin = present.find(
        ([other, candidate]) =>
          other === id ||
          (!wholes.has(section) &&
            plain(candidate.title) === plain(entry.title) &&
            valuesOf(candidate, alike) === valuesOf(entry, alike)),
      )
      if (twin) taken.set(id, twin[0])
    }
  }
  return taken
}

const identity = /\b[a-z]{2}_[a-z0-9]{2,24}\b/g

/** Puts other identities in place of some, wherever they stand: as keys, in keys of entries, as values. The shape stays that of a document. */
const renamed = (document: DefinitionsDocument, taken: Taken): DefinitionsDocument =>
  JSON.parse(
    JSON.stringify(document).replaceAll(identity, (id) => taken.get(id) ?? id),
  ) as DefinitionsDocument

/** Where an entry must differ from all others of its section: what else it may say there, one after the other. */
const alternatives: Readonly<
  Record<string, (words: string, title: string, rulebook: string) => readonly string[]>
> = {
  title: (words, _, rulebook) => [`${words} (${rulebook})`, ...numbered(`${words} `)],
  handle: (words) => numbered(`${words}_`),
  monogram: (words, title) =>
    [
      ...title
        .slice(1)
        .toLowerCase()
        .replaceAll(/[^a-z]/g, ''),
      ...'abcdefghijklmnopqrstuvwxyz',
    ].map((letter) => `${words[0]}${letter}`),
}
const numbered = (words: string): string[] =>
  Array.from({ length: 999 }, (_, index) => `${words}${index + 2}`)

/** An entry that differs from all that are there wherever it must. */
function distinct(entry: Entry, others: readonly Entry[], rulebook: string): Entry {
  const changed = Object.entries(alternatives).flatMap(([name, more]): [string, string][] => {
    const words = valueOf(entry, name)
    if (words === undefined) return []
    const taken = new Set(others.map((other) => plain(valueOf(other, name) ?? '')))
    const free = [words, ...more(words, entry.title, rulebook)].find(
      (text) => !taken.has(plain(text)),
    )
    return [[name, free ?? words]]
  })
  return { ...entry, ...Object.fromEntries(changed) }
}

/** Adds what is not there yet, after what is. */
function added(present: Entries, given: Entries, rulebook: string): Entries {
  const all: Record<string, Entry> = { ...present }
  let last = inOrder(present).at(-1)?.order ?? null
  for (const { id, ...entry } of inOrder(given)) {
    if (present[id]) continue
    last = orderBetween(last, null)
    all[id] = distinct({ ...entry, order: last }, Object.values(all), rulebook)
  }
  return all
}

/**
 * A document with a starter’s definitions added. What has the same title and means the same is shared; the rest is new, so that
 * nothing that is there changes.
 */
export function takeOver(
  document: DefinitionsDocument,
  starter: DefinitionsDocument,
): DefinitionsDocument {
  const taken = alreadyThere(document, starter)
  const mine = renamed(starter, taken)
  const rulebook = firstIn(inOrder(starter.rulebooks)).title
  const all = sections.map((section) => [
    section,
    added(entriesIn(document, section), entriesIn(mine, section), rulebook),
  ])
  // Each section holds entries of its own kind, of both documents.
  return { ...document, ...(Object.fromEntries(all) as DefinitionsDocument) }
}
