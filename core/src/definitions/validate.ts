import { builtIns } from '../queries/vocabulary.ts'
import { isReserved } from '../queries/name.ts'
import { functionNames } from '../queries/functions.ts'
import { sections, sectionWords, type DefinitionsDocument } from './document.ts'
import { flowOf, typesOf } from './rulebook.ts'

/** One thing wrong with a document: where, as a JSON pointer, what it is and what would do. */
export interface Problem { readonly pointer: string; readonly message: string; readonly expected?: string; readonly found?: string }

const pointer = (...path: string[]): string => path.map((key) => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')

/**
 * Judges what a schema cannot: names that must differ, references that must resolve, flows that can be walked.
 * The document is taken to fit the schema.
 *
 * @returns every problem, in the order of the sections; none when the document may become an edition
 */
export function validate(document: DefinitionsDocument): Problem[] {
  return [...titles(document), ...handles(document), ...monograms(document), ...ladders(document), ...rulebooks(document), ...projects(document)]
}

function titles(document: DefinitionsDocument): Problem[] {
  return sections.flatMap((section) => repeated(Object.entries(document[section]).map(([id, entry]) => [id, entry.title.trim().toLowerCase()]))
    .map(([id, twin]) => ({
      pointer: pointer(section, id, 'title'), found: document[section][id]!.title,
      message: `There is already a ${sectionWords[section]} called “${document[section][twin]!.title}”.`, expected: 'a title of its own',
    })))
}

/** Each entry that repeats the value of an earlier one, with that earlier one. */
function repeated(entries: readonly (readonly [id: string, value: string])[]): [string, string][] {
  const first = new Map<string, string>()
  return entries.flatMap(([id, value]): [string, string][] => {
    const twin = first.get(value)
    if (twin === undefined) first.set(value, id)
    return twin === undefined ? [] : [[id, twin]]
  })
}

function handles(document: DefinitionsDocument): Problem[] {
  const fields = Object.entries(document.fields)
  const taken = new Set<string>([...builtIns.map((property) => property.handle), ...functionNames, 'date', 'timestamp', 'interval', 'casei', 'accenti'])
  return [
    ...fields.filter(([, { handle }]) => taken.has(handle) || isReserved(handle)).map(([id, { handle }]) => ({
      pointer: pointer('fields', id, 'handle'), found: handle, message: `“${handle}” already has a meaning in queries.`, expected: 'another handle',
    })),
    ...repeated(fields.map(([id, { handle }]) => [id, handle])).map(([id, twin]) => ({
      pointer: pointer('fields', id, 'handle'), found: document.fields[id]!.handle, message: `The field “${document.fields[twin]!.title}” has this handle.`, expected: 'another handle',
    })),
    ...fields.flatMap(([id, field]) => fieldShape(id, field)),
  ]
}

function fieldShape(id: string, field: DefinitionsDocument['fields'][string]): Problem[] {
  const choice = field.kind === 'choice' || field.kind === 'several choices'
  const problems: Problem[] = []
  if (choice && Object.keys(field.options ?? {}).length === 0) problems.push({ pointer: pointer('fields', id, 'options'), message: `“${field.title}” is a choice without options.`, expected: 'at least one option' })
  if (!choice && field.options) problems.push({ pointer: pointer('fields', id, 'options'), message: `“${field.title}” is of kind ${field.kind}, which has no options.`, expected: 'no options' })
  if (field.kind !== 'number' && (field.unit !== undefined || field.decimals !== undefined)) problems.push({ pointer: pointer('fields', id, 'unit'), message: `Only numbers have a unit and decimals; “${field.title}” is of kind ${field.kind}.`, expected: 'no unit' })
  const options = Object.entries(field.options ?? {})
  return [...problems, ...repeated(options.map(([option, { title }]) => [option, title.trim().toLowerCase()])).map(([option]) => ({
    pointer: pointer('fields', id, 'options', option, 'title'), found: field.options![option]!.title, message: `“${field.title}” has two options of this title.`, expected: 'a title of its own',
  }))]
}

function monograms(document: DefinitionsDocument): Problem[] {
  return repeated(Object.entries(document.types).map(([id, { monogram }]) => [id, monogram])).map(([id, twin]) => ({
    pointer: pointer('types', id, 'monogram'), found: document.types[id]!.monogram, message: `“${document.types[twin]!.title}” has this monogram.`, expected: 'two other letters',
  }))
}

function ladders(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.ladders).flatMap(([id, ladder]) => [
    ...Object.keys(ladder.rungs).filter((priority) => !document.priorities[priority]).map((priority) => unknown(pointer('ladders', id, 'rungs', priority), 'priority', priority)),
    ...(ladder.default !== null && !ladder.rungs[ladder.default] ? [{ pointer: pointer('ladders', id, 'default'), found: ladder.default, message: `The default of “${ladder.title}” is not one of its rungs.`, expected: 'one of its rungs' }] : []),
  ])
}

const unknown = (at: string, word: string, found: string): Problem => ({ pointer: at, found, message: `This names a ${word} that is not defined.`, expected: `the identity of a ${word}` })

function rulebooks(document: DefinitionsDocument): Problem[] {
  return Object.keys(document.rulebooks).flatMap((id) => {
    const circle = circleOf(document, id)
    if (circle) return [circle]
    return [...entryProblems(document, id), ...flowProblems(document, id)]
  })
}

function circleOf(document: DefinitionsDocument, id: string): Problem | undefined {
  const at = pointer('rulebooks', id, 'extends')
  const seen = new Set([id])
  for (let next = document.rulebooks[id]!.extends; next; next = document.rulebooks[next]!.extends) {
    if (!document.rulebooks[next]) return unknown(at, 'rulebook', next)
    if (seen.has(next)) return { pointer: at, found: next, message: `“${document.rulebooks[id]!.title}” extends itself in a circle.`, expected: 'a rulebook that does not rest on this one' }
    seen.add(next)
  }
  return undefined
}

const builtInHandles = new Set(builtIns.map((property) => property.handle))

/** What each part of an entry's key must name. */
const keyShapes: Record<string, readonly (keyof DefinitionsDocument | 'field' | 'form')[]> = {
  type: ['types'], status: ['types', 'statuses'], move: ['types', 'statuses', 'statuses'], form: ['types', 'form', 'field'], ladder: [], family: ['families'], link: ['linkKinds'],
}

function entryProblems(document: DefinitionsDocument, id: string): Problem[] {
  return Object.entries(document.rulebooks[id]!.entries).flatMap(([key, entry]) => {
    const at = pointer('rulebooks', id, 'entries', key)
    const [kind = '', ...parts] = key.split(':')
    const shape = keyShapes[kind]
    if (!shape || shape.length !== parts.length) return [{ pointer: at, found: key, message: 'This is no key of a rulebook.', expected: 'type:TY, status:TY:ST, move:TY:FROM:TO, form:TY:item:FIELD, ladder, family:FA or link:LK' }]
    const missing = shape.flatMap((what, index) => {
      const part = parts[index]!
      if (what === 'form') return part === 'item' || part === 'make' ? [] : [unknown(at, 'form', part)]
      if (what === 'field') return document.fields[part] || builtInHandles.has(part) ? [] : [unknown(at, 'field', part)]
      return Object.hasOwn(document[what] as object, part) ? [] : [unknown(at, sectionWords[what as 'types'], part)]
    })
    if (entry !== 'out' && kind === 'ladder' && !(entry.ladder && document.ladders[entry.ladder])) return [...missing, unknown(`${at}/ladder`, 'ladder', entry.ladder ?? '')]
    return missing
  })
}

/** A flow must begin somewhere, keep to its own statuses, reach all of them and be left from wherever work is still open. */
function flowProblems(document: DefinitionsDocument, rulebook: string): Problem[] {
  return typesOf(document, rulebook).flatMap((type) => {
    const flow = flowOf(document, rulebook, type)
    const typeTitle = document.types[type]?.title ?? type
    const at = pointer('rulebooks', rulebook, 'entries', `type:${type}`)
    if (!flow.start || !flow.statuses.includes(flow.start)) return [{ pointer: `${at}/start`, found: flow.start ?? '', message: `The flow of “${typeTitle}” does not say in which of its statuses an item starts.`, expected: 'one of its statuses' }]
    const moves = [...flow.moves].map((move) => move.split(':') as [string, string])
    const stray = moves.filter(([from, to]) => !flow.statuses.includes(from) || !flow.statuses.includes(to)).map(([from, to]) => ({
      pointer: pointer('rulebooks', rulebook, 'entries', `move:${type}:${from}:${to}`), found: `${from} to ${to}`, message: `The flow of “${typeTitle}” has a move of a status it does not use.`, expected: 'statuses of the flow',
    }))
    const reached = new Set([flow.start])
    for (const status of reached) for (const [from, to] of moves) if (from === status) reached.add(to)
    const title = (status: string): string => document.statuses[status]?.title ?? status
    const unreached = flow.statuses.filter((status) => !reached.has(status)).map((status) => ({
      pointer: pointer('rulebooks', rulebook, 'entries', `status:${type}:${status}`), message: `Nothing leads to “${title(status)}” in the flow of “${typeTitle}”.`, expected: 'a move to it',
    }))
    const stuck = flow.statuses.filter((status) => reached.has(status) && !['done', 'dropped'].includes(document.statuses[status]?.phase ?? '') && !moves.some(([from]) => from === status)).map((status) => ({
      pointer: pointer('rulebooks', rulebook, 'entries', `status:${type}:${status}`), message: `No move leads out of “${title(status)}” in the flow of “${typeTitle}”.`, expected: 'a move from it',
    }))
    return [...stray, ...unreached, ...stuck]
  })
}

function projects(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.projects).filter(([, rulebook]) => !document.rulebooks[rulebook]).map(([project, rulebook]) => unknown(pointer('projects', project), 'rulebook', rulebook))
}

