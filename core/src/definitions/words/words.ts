import { fieldTitle, requirementInWords } from '../rulebook/requirement.ts'
import type { Difference } from '../draft/diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { RulebookEntry } from '../document/rules.ts'
import { type Section, sectionWords } from '../document/sections.ts'

const titleIn = (documents: readonly DefinitionsDocument[], section: Section, id: string): string =>
  documents.map((document) => document[section][id]?.title).find((title) => title !== undefined) ??
  id

/** A difference as a person would tell it: “renames status Stuck to Waiting for parts”. */
export function inWords(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  difference: Difference,
  projectTitle: (id: string) => string = () => 'a project',
): string {
  const [section, id = '', part, key] = difference.path
  const documents = [after, before]
  const of = (where: Section, what: string): string => `“${titleIn(documents, where, what)}”`
  if (section === 'projects')
    return typeof difference.after === 'string'
      ? `lets ${projectTitle(id)} follow rulebook ${of('rulebooks', difference.after)}`
      : `takes the rulebook from ${projectTitle(id)}`
  const word = sectionWords[section as Section]
  const name = of(section as Section, id)
  if (part === undefined)
    return difference.after === undefined ? `takes away ${word} ${name}` : `adds ${word} ${name}`
  if (section === 'rulebooks' && part === 'entries' && key)
    return `${entryWords(after, key, difference, of)}${Object.keys(after.rulebooks).length > 1 ? `, in ${name}` : ''}`
  if (part === 'title' && key === undefined)
    return `renames ${word} “${String(difference.before)}” to “${String(difference.after)}”`
  if (part === 'retired')
    return difference.after === true ? `retires ${word} ${name}` : `offers ${word} ${name} again`
  if (
    part === 'order' ||
    (part === 'rungs' && difference.before !== undefined && difference.after !== undefined)
  )
    return `moves ${word} ${name} to another place`
  if (section === 'ladders' && part === 'rungs' && key)
    return `${difference.after === undefined ? 'takes' : 'puts'} priority ${of('priorities', key)} ${difference.after === undefined ? 'off' : 'on'} ladder ${name}`
  if (section === 'ladders' && part === 'default')
    return `makes ${difference.after ? of('priorities', String(difference.after)) : 'nothing'} the default of ladder ${name}`
  if (part === 'description') return `describes ${word} ${name} anew`
  if (part === 'options' && key) return optionWords(name, difference)
  if (part === 'extends')
    return difference.after
      ? `lets rulebook ${name} extend ${of('rulebooks', String(difference.after))}`
      : `lets rulebook ${name} stand alone`
  return `changes the ${partWords[part] ?? part} of ${word} ${name}${primitive(difference.before) && primitive(difference.after) ? ` from ${said(difference.before)} to ${said(difference.after)}` : ''}`
}

/** Parts whose names in the document are not words. */
const partWords: Record<string, string> = {
  below: 'types below',
  rollUp: 'roll-up',
  warnAt: 'warning',
  refusesCircles: 'refusal of circles',
  empty: 'meaning of an empty part',
  what: 'kind',
}
const primitive = (value: unknown): boolean => value === null || typeof value !== 'object'
const said = (value: unknown): string =>
  value === undefined || value === null || value === ''
    ? 'nothing'
    : value === true
      ? 'yes'
      : value === false
        ? 'no'
        : String(value)

function optionWords(field: string, { before, after }: Difference): string {
  const [was, is] = [before, after] as (
    { title: string; retired?: boolean; colour?: number } | undefined
  )[]
  if (!was || !is)
    return is
      ? `adds option “${is.title}” to field ${field}`
      : `takes option “${was?.title ?? ''}” from field ${field}`
  if (was.title !== is.title)
    return `renames option “${was.title}” of field ${field} to “${is.title}”`
  if (was.retired !== is.retired)
    return `${is.retired ? 'retires' : 'offers again'} option “${is.title}” of field ${field}`
  return `${was.colour === is.colour ? 'changes' : 'colours'} option “${is.title}” of field ${field}`
}

function entryWords(
  document: DefinitionsDocument,
  key: string,
  { after }: Difference,
  of: (section: Section, id: string) => string,
): string {
  const [kind, type = '', third = '', fourth = ''] = key.split(':')
  const away = after === undefined || after === 'out'
  const entry = (away ? {} : after) as RulebookEntry
  switch (kind) {
    case 'move':
      return `${away ? 'forbids' : 'allows'} ${of('types', type)} to go from ${of('statuses', third)} to ${of('statuses', fourth)}`
    case 'status':
      return `${away ? 'takes' : 'puts'} status ${of('statuses', third)} ${away ? 'out of' : 'into'} the flow of ${of('types', type)}`
    case 'requirement':
      return away
        ? `asks nothing for ${of('types', type)} to enter ${of('statuses', third)}`
        : `asks for ${of('types', type)} to enter ${of('statuses', third)}: ${requirementInWords(document, entry.requires ?? {}) || 'nothing'}`
    case 'form':
      return `${away ? 'takes' : 'puts'} ${fourth.startsWith('fi_') ? of('fields', fourth) : fieldTitle(document, fourth)} ${away ? 'off' : 'on'} the form of ${of('types', type)}`
    case 'type':
      return away
        ? `no longer offers type ${of('types', type)}`
        : `offers type ${of('types', type)}${entry.start ? `, starting in ${of('statuses', entry.start)}` : ''}`
    case 'ladder':
      return entry.ladder
        ? `follows ladder ${of('ladders', entry.ladder)}`
        : 'follows no ladder of its own'
    case 'unit':
      return `estimates in ${entry.unit ?? 'hours'}`
    case 'family':
      return `${away ? 'no longer offers' : 'offers'} family ${of('families', type)}`
    case 'limit':
      return `${away ? 'no longer keeps' : 'keeps'} time limit ${of('limits', type)}`
    default:
      return `${away ? 'no longer offers' : 'offers'} link kind ${of('linkKinds', type)}`
  }
}
