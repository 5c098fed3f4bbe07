import { asRecord, asText } from '../../known/index.ts'
import { nameOfPart } from './value.ts'
import { type EntryKind, kindOfEntry } from '../document/entryKinds.ts'
import { fieldTitle, requirementInWords } from '../rulebook/requirement.ts'
import { valueAt } from '../draft/change.ts'
import type { Difference } from '../draft/diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { RulebookEntry } from '../document/rules.ts'
import { sectionAt, type Section, sectionWords } from '../document/sections.ts'

const titleIn = (documents: readonly DefinitionsDocument[], section: Section, id: string): string =>
  documents.map((document) => document[section][id]?.title).find((title) => title !== undefined) ??
  id

type TitleOf = (section: Section, id: string) => string

/** What is told of one change: its place in the document, and how things are called. */
interface Told {
  readonly difference: Difference
  readonly section: Section
  readonly part: string
  readonly key: string
  /** what kind of thing it is, such as “status” */
  readonly word: string
  /** its title in quotation marks */
  readonly name: string
  readonly titleOf: TitleOf
}

/** How deep a difference is told; one that lies deeper, as a change of a draft may, is told by what it lies in. */
const toldDepth = 4

function toldWhole(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  difference: Difference,
): Difference {
  if (difference.path.length <= toldDepth) return difference
  const path = difference.path.slice(0, toldDepth)
  return { path, before: valueAt(before, path), after: valueAt(after, path) }
}

/** A difference as a person would tell it: “renames status Stuck to Waiting for parts”. */
export function inWords(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  given: Difference,
  projectTitle: (id: string) => string = () => 'a project',
): string {
  const difference = toldWhole(before, after, given)
  const [section, id = '', part, key = ''] = difference.path
  const titleOf: TitleOf = (where, what) => `“${titleIn([after, before], where, what)}”`
  if (section === 'projects')
    return typeof difference.after === 'string'
      ? `assigns rulebook ${titleOf('rulebooks', difference.after)} to ${projectTitle(id)}`
      : `removes the rulebook from ${projectTitle(id)}`
  const place = sectionAt(difference.path)
  const word = sectionWords[place]
  const name = titleOf(place, id)
  if (part === undefined)
    return difference.after === undefined ? `removes ${word} ${name}` : `adds ${word} ${name}`
  if (section === 'rulebooks' && part === 'entries' && key) {
    const words = entryWords(after, key, difference, titleOf)
    return Object.keys(after.rulebooks).length > 1 ? `${words}, in ${name}` : words
  }
  const told: Told = { difference, section: place, part, key, word, name, titleOf }
  if (section === 'ladders') return ladderWords(told) ?? partInWords(told)
  return partInWords(told)
}

/** What changes on a ladder, where it is about its rungs or its default. */
function ladderWords({ difference, part, key, name, titleOf }: Told): string | undefined {
  const { before, after } = difference
  if (part === 'default')
    return `makes ${typeof after === 'string' ? titleOf('priorities', after) : 'nothing'} the default of ladder ${name}`
  if (part !== 'rungs' || !key || (before !== undefined && after !== undefined)) return undefined
  const priority = titleOf('priorities', key)
  return after === undefined
    ? `removes priority ${priority} from ladder ${name}`
    : `adds priority ${priority} to ladder ${name}`
}

function partInWords(told: Told): string {
  const { difference, part, key, word, name, titleOf } = told
  const { before, after } = difference
  switch (part) {
    case 'title':
      if (!key) return `renames ${word} “${String(before)}” to “${String(after)}”`
      break
    case 'retired':
      return after === true ? `retires ${word} ${name}` : `brings back ${word} ${name}`
    case 'order':
    case 'rungs':
      return `moves ${word} ${name} to another place`
    case 'description':
      return `changes the description of ${word} ${name}`
    case 'options':
      if (key) return optionWords(name, difference)
      break
    case 'extends':
      return typeof after === 'string'
        ? `makes rulebook ${name} extend ${titleOf('rulebooks', after)}`
        : `makes rulebook ${name} independent`
  }
  const fromTo =
    primitive(before) && primitive(after) ? ` from ${said(before)} to ${said(after)}` : ''
  return `changes the ${nameOfPart(part)} of ${word} ${name}${fromTo}`
}

type Primitive = string | number | boolean | null | undefined

const primitive = (value: unknown): value is Primitive =>
  value === null || typeof value !== 'object'

function said(value: Primitive): string {
  if (value === undefined || value === null || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return String(value)
}

interface ToldOption {
  readonly title: string
  readonly retired?: boolean
  readonly colour?: number
}

const optionOf = (value: unknown): ToldOption | undefined => {
  if (value === undefined) return undefined
  const { title, retired, colour } = asRecord(value)
  return {
    title: asText(title),
    ...(retired === true ? { retired } : {}),
    ...(typeof colour === 'number' ? { colour } : {}),
  }
}

function optionWords(field: string, { before, after }: Difference): string {
  const [was, is] = [optionOf(before), optionOf(after)]
  if (!was) return `adds option “${is?.title ?? ''}” to field ${field}`
  if (!is) return `removes option “${was.title}” from field ${field}`
  if (was.title !== is.title)
    return `renames option “${was.title}” of field ${field} to “${is.title}”`
  if (was.retired !== is.retired)
    return `${is.retired ? 'retires' : 'brings back'} option “${is.title}” of field ${field}`
  return `${was.colour === is.colour ? 'changes' : 'colours'} option “${is.title}” of field ${field}`
}

/** A change of an entry of a rulebook: what its key names, and whether the entry is taken away. */
interface ToldEntry {
  readonly document: DefinitionsDocument
  readonly entry: RulebookEntry
  readonly away: boolean
  /** the parts of the key after its kind */
  readonly parts: readonly [string, string, string]
  readonly titleOf: TitleOf
}

const wordsOfEntry: Record<EntryKind, (told: ToldEntry) => string> = {
  move: ({ away, parts: [type, from, to], titleOf }) =>
    `${away ? 'forbids' : 'allows'} ${titleOf('types', type)} to go from ${titleOf('statuses', from)} to ${titleOf('statuses', to)}`,
  status: ({ away, parts: [type, status], titleOf }) =>
    `${away ? 'removes' : 'adds'} status ${titleOf('statuses', status)} ${away ? 'from' : 'to'} the flow of ${titleOf('types', type)}`,
  requirement: ({ document, entry, away, parts: [type, status], titleOf }) => {
    const move = `${titleOf('types', type)} to enter ${titleOf('statuses', status)}`
    if (away) return `requires nothing for ${move}`
    return `requires for ${move}: ${requirementInWords(document, entry.requires ?? {}) || 'nothing'}`
  },
  form: ({ document, away, parts: [type, , field], titleOf }) => {
    const title = field.startsWith('fi_') ? titleOf('fields', field) : fieldTitle(document, field)
    return `${away ? 'removes' : 'adds'} ${title} ${away ? 'from' : 'to'} the form of ${titleOf('types', type)}`
  },
  type: ({ entry, away, parts: [type], titleOf }) => {
    if (away) return `no longer offers type ${titleOf('types', type)}`
    const start = entry.start ? `, starting in ${titleOf('statuses', entry.start)}` : ''
    return `offers type ${titleOf('types', type)}${start}`
  },
  ladder: ({ entry, titleOf }) =>
    entry.ladder
      ? `follows ladder ${titleOf('ladders', entry.ladder)}`
      : 'follows no ladder of its own',
  unit: ({ entry }) => `estimates in ${entry.unit ?? 'hours'}`,
  family: ({ away, parts: [family], titleOf }) =>
    `${away ? 'no longer offers' : 'offers'} family ${titleOf('families', family)}`,
  limit: ({ away, parts: [limit], titleOf }) =>
    `${away ? 'no longer applies' : 'applies'} time limit ${titleOf('limits', limit)}`,
  link: ({ away, parts: [link], titleOf }) =>
    `${away ? 'no longer offers' : 'offers'} link kind ${titleOf('linkKinds', link)}`,
}

function entryWords(
  document: DefinitionsDocument,
  key: string,
  { after }: Difference,
  titleOf: TitleOf,
): string {
  const [, first = '', second = '', third = ''] = key.split(':')
  const away = after === undefined || after === 'out'
  // What stands below the entries of a rulebook is one, by the document’s schema.
  const entry = (away ? {} : after) as RulebookEntry
  const words = wordsOfEntry[kindOfEntry(key)]
  return words({ document, entry, away, parts: [first, second, third], titleOf })
}
