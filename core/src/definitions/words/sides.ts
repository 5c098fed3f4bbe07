import type { Difference } from '../draft/diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { inOrder, type Ordered } from '../document/ordered.ts'
import { sectionAt, type Section, sectionWords } from '../document/sections.ts'
import { contentsOf, rungsIn } from './contents.ts'
import { nameOfPart, valueInWords } from './value.ts'
import { entryKinds, kindOfEntry } from '../document/entryKinds.ts'
import { entryInWords, keyInWords } from './entry.ts'

/** A change by its two sides: which entry, which part of it, and what stands there before and after. */
export interface Sides {
  /** what kind of thing it is, such as “status” */
  readonly kind: string
  readonly title: string
  /** the part that changes; empty for the whole entry */
  readonly part: string
  /** null where nothing stood there */
  readonly before: string | null
  /** null where nothing stands there afterwards */
  readonly after: string | null
}

type Documents = readonly [before: DefinitionsDocument, after: DefinitionsDocument]

/** What a difference changes, side by side. */
export function sidesOf(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  difference: Difference,
  projectTitle: (id: string) => string = () => 'a project',
): Sides {
  const documents: Documents = [before, after]
  const [section, id = '', part, key = ''] = difference.path
  if (section === 'projects') return sidesOfProject(documents, difference, projectTitle(id))
  const place = sectionAt(difference.path)
  const about = { kind: sectionWords[place], title: titleIn(documents, place, id) }
  if (part === undefined) return { ...about, part: '', ...wholeSides(documents, place, id) }
  if (place === 'rulebooks' && part === 'entries' && key)
    return sidesOfEntry(documents, id, key, about.title)
  const read = partReaders[`${place}/${part}`] ?? partReaders[part]
  if (read) return { ...about, part: nameOfPart(part), ...both(documents, read(place, id, key)) }
  return {
    ...about,
    part: nameOfPart(part),
    before: valueInWords(before, part, difference.before),
    after: valueInWords(after, part, difference.after),
  }
}

/** Parts that are told by where they stand among others. */
const partReaders: Readonly<
  Record<
    string,
    (section: Section, id: string, key: string) => (document: DefinitionsDocument) => string | null
  >
> = {
  'ladders/rungs': (_, id) => (document) => rungsIn(document, id),
  'fields/options': (_, id, key) => (document) => optionIn(document, id, key),
  order: (section, id) => (document) => rankIn(document, section, id),
}

const both = (
  [before, after]: Documents,
  read: (document: DefinitionsDocument) => string | null,
): Pick<Sides, 'before' | 'after'> => ({ before: read(before), after: read(after) })

const titleIn = (documents: Documents, section: Section, id: string): string =>
  documents[1][section][id]?.title ?? documents[0][section][id]?.title ?? id

const sidesOfProject = (
  [before, after]: Documents,
  difference: Difference,
  title: string,
): Sides => {
  const rulebook = (document: DefinitionsDocument, id: unknown): string | null =>
    typeof id === 'string' ? (document.rulebooks[id]?.title ?? id) : null
  return {
    kind: 'project',
    title,
    part: 'rulebook',
    before: rulebook(before, difference.before),
    after: rulebook(after, difference.after),
  }
}

function sidesOfEntry(documents: Documents, rulebook: string, key: string, title: string): Sides {
  const kind = kindOfEntry(key)
  const entryIn = (document: DefinitionsDocument) => {
    const entry = document.rulebooks[rulebook]?.entries[key]
    return entry === 'out' ? undefined : entry
  }
  const said = (document: DefinitionsDocument): string | null => {
    const entry = entryIn(document)
    return entry || kind === 'move' ? entryInWords(document, key, entry) : null
  }
  const several = Object.keys(documents[1].rulebooks).length > 1
  const named = documents.find((document) => entryIn(document)) ?? documents[1]
  return {
    kind: entryKinds[kind],
    title: keyInWords(named, key),
    part: several ? `in ${title}` : '',
    before: said(documents[0]),
    after: said(documents[1]) ?? (kind === 'requirement' ? 'nothing asked' : 'left out'),
  }
}

const optionIn = (document: DefinitionsDocument, field: string, id: string): string | null => {
  const option = document.fields[field]?.options?.[id]
  if (!option) return null
  return option.retired ? `${option.title}, retired` : option.title
}

const ordered = (
  document: DefinitionsDocument,
  section: Section,
): Readonly<Record<string, Ordered>> => document[section]

/** Where an entry stands among its kind. */
const rankIn = (document: DefinitionsDocument, section: Section, id: string): string | null => {
  const all = inOrder(ordered(document, section)).map((entry) => entry.id)
  return all.includes(id) ? `${all.indexOf(id) + 1} of ${all.length}` : null
}

/** A whole entry that comes or goes, with what is in it. */
const wholeSides = (
  [before, after]: Documents,
  section: Section,
  id: string,
): Pick<Sides, 'before' | 'after'> => {
  const is = after[section][id]
  if (is) return { before: null, after: contentsOf(after, section, id) }
  return { before: before[section][id] ? 'defined' : null, after: null }
}
