import type { Difference } from './diff.ts'
import { flowOf } from './rulebook.ts'
import { sectionWords, type DefinitionsDocument, type Section } from './document.ts'

/** How much of the present each definition is used by: counts of items. */
export interface Usage {
  /** by identity of a type, status, priority, field (filled) or link kind */
  readonly items: Readonly<Record<string, number>>
  /** by `TYPE:STATUS` */
  readonly standing: Readonly<Record<string, number>>
}

/** One change in words, with the items it touches: those a reader would see differently, or that could be moved otherwise. */
export interface Touched { readonly path: readonly string[]; readonly words: string; readonly items: number }

/** What each difference says and touches. Pure: the counts come from outside. */
export function impact(before: DefinitionsDocument, after: DefinitionsDocument, differences: readonly Difference[], usage: Usage): Touched[] {
  return differences.map((difference) => ({ path: difference.path, words: inWords(before, after, difference), items: touched(after, difference, usage) }))
}

function touched(after: DefinitionsDocument, { path }: Difference, usage: Usage): number {
  const [section, id = '', part, key = ''] = path
  if (section === 'rulebooks' && part === 'entries') return touchedByEntry(after, id, key, usage)
  if (section === 'ladders') return Object.keys(after.ladders[id]?.rungs ?? {}).reduce((sum, priority) => sum + (usage.items[priority] ?? 0), 0)
  return usage.items[id] ?? 0
}

function touchedByEntry(after: DefinitionsDocument, rulebook: string, key: string, usage: Usage): number {
  const [kind, type = '', third = ''] = key.split(':')
  if (kind === 'move' || kind === 'status') return usage.standing[`${type}:${third}`] ?? 0
  if (kind === 'form' || kind === 'type') return flowOf(after, rulebook, type).statuses.reduce((sum, status) => sum + (usage.standing[`${type}:${status}`] ?? 0), 0)
  return 0
}

const titleIn = (documents: readonly DefinitionsDocument[], section: Section, id: string): string => documents.map((document) => document[section][id]?.title).find((title) => title !== undefined) ?? id

/** A difference as a person would tell it: “renames status Stuck to Waiting for parts”. */
export function inWords(before: DefinitionsDocument, after: DefinitionsDocument, difference: Difference): string {
  const [section, id = '', part, key] = difference.path
  if (section === 'projects') return 'changes the rulebook of a project'
  const documents = [after, before]
  const of = (where: Section, what: string): string => `“${titleIn(documents, where, what)}”`
  const word = sectionWords[section as Section]
  const name = of(section as Section, id)
  if (part === undefined) return difference.after === undefined ? `takes away ${word} ${name}` : `adds ${word} ${name}`
  if (section === 'rulebooks' && part === 'entries' && key) return entryWords(key, difference, of)
  if (part === 'title' && key === undefined) return `renames ${word} “${String(difference.before)}” to “${String(difference.after)}”`
  if (part === 'order' || (part === 'rungs' && difference.before !== undefined && difference.after !== undefined)) return `moves ${word} ${name} to another place`
  if (section === 'ladders' && part === 'rungs' && key) return `${difference.after === undefined ? 'takes' : 'puts'} priority ${of('priorities', key)} ${difference.after === undefined ? 'off' : 'on'} ladder ${name}`
  if (part === 'description') return `describes ${word} ${name} anew`
  if (part === 'options' && key) return `changes the options of ${word} ${name}`
  return `changes the ${part} of ${word} ${name}${primitive(difference.before) && primitive(difference.after) ? ` from ${said(difference.before)} to ${said(difference.after)}` : ''}`
}

const primitive = (value: unknown): boolean => value === null || typeof value !== 'object'
const said = (value: unknown): string => (value === undefined || value === null || value === '' ? 'nothing' : value === true ? 'yes' : value === false ? 'no' : String(value))

function entryWords(key: string, { after }: Difference, of: (section: Section, id: string) => string): string {
  const [kind, type = '', third = '', fourth = ''] = key.split(':')
  const away = after === undefined || after === 'out'
  switch (kind) {
    case 'move': return `${away ? 'forbids' : 'allows'} ${of('types', type)} to go from ${of('statuses', third)} to ${of('statuses', fourth)}`
    case 'status': return `${away ? 'takes' : 'puts'} status ${of('statuses', third)} ${away ? 'out of' : 'into'} the flow of ${of('types', type)}`
    case 'form': return `${away ? 'takes' : 'puts'} ${fourth.startsWith('fi_') ? of('fields', fourth) : fourth} ${away ? 'off' : 'on'} the form of ${of('types', type)}`
    case 'type': return away ? `no longer offers type ${of('types', type)}` : `offers type ${of('types', type)}, starting in its first status`
    case 'ladder': return 'changes the ladder'
    case 'family': return `${away ? 'no longer offers' : 'offers'} family ${of('families', type)}`
    default: return `${away ? 'no longer offers' : 'offers'} link kind ${of('linkKinds', type)}`
  }
}
