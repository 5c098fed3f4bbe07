import { elementAt, entryOf, halves } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { pointer, type Problem } from './problem.ts'
import { builtInHandles } from './titles.ts'
import { sectionWords } from '../document/sections.ts'
import type { RulebookEntry } from '../document/rules.ts'
import { isComputed } from '../document/fieldKinds.ts'
import { flowOf, typesOf } from '../rulebook/rulebook.ts'

export function ladders(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.ladders).flatMap(([id, ladder]) => [
    ...Object.keys(ladder.rungs)
      .filter((priority) => !document.priorities[priority])
      .map((priority) => unknown(pointer('ladders', id, 'rungs', priority), 'priority', priority)),
    ...(ladder.default !== null && !ladder.rungs[ladder.default]
      ? [
          {
            pointer: pointer('ladders', id, 'default'),
            found: ladder.default,
            message: `The default of “${ladder.title}” is not one of its rungs.`,
            expected: 'one of its rungs',
          },
        ]
      : []),
  ])
}

export const unknown = (at: string, word: string, found: string): Problem => ({
  pointer: at,
  found,
  message: `This names a ${word} that is not defined.`,
  expected: `the identity of a ${word}`,
})

export function rulebooks(document: DefinitionsDocument): Problem[] {
  return Object.keys(document.rulebooks).flatMap((id) => {
    const circle = circleOf(document, id)
    if (circle) return [circle]
    return [...entryProblems(document, id), ...flowProblems(document, id)]
  })
}

function circleOf(document: DefinitionsDocument, id: string): Problem | undefined {
  const at = pointer('rulebooks', id, 'extends')
  const seen = new Set([id])
  for (
    let next = entryOf(document.rulebooks, id).extends;
    next;
    next = entryOf(document.rulebooks, next).extends
  ) {
    if (!document.rulebooks[next]) return unknown(at, 'rulebook', next)
    if (seen.has(next))
      return {
        pointer: at,
        found: next,
        message: `“${entryOf(document.rulebooks, id).title}” extends itself in a circle.`,
        expected: 'a rulebook that does not rest on this one',
      }
    seen.add(next)
  }
  return undefined
}

/** What each part of an entry's key must name. */
const keyShapes: Record<string, readonly (keyof DefinitionsDocument | 'field' | 'form')[]> = {
  type: ['types'],
  status: ['types', 'statuses'],
  move: ['types', 'statuses', 'statuses'],
  requirement: ['types', 'statuses'],
  form: ['types', 'form', 'field'],
  ladder: [],
  unit: [],
  family: ['families'],
  link: ['linkKinds'],
  limit: ['limits'],
}

function entryProblems(document: DefinitionsDocument, id: string): Problem[] {
  return Object.entries(entryOf(document.rulebooks, id).entries).flatMap(([key, entry]) => {
    const at = pointer('rulebooks', id, 'entries', key)
    const [kind = '', ...parts] = key.split(':')
    const shape = keyShapes[kind]
    if (!shape || shape.length !== parts.length)
      return [
        {
          pointer: at,
          found: key,
          message: 'This is no key of a rulebook.',
          expected:
            'type:TY, status:TY:ST, move:TY:FROM:TO, requirement:TY:ST, form:TY:item:FIELD, ladder, unit, family:FA, link:LK or limit:TL',
        },
      ]
    const missing = shape.flatMap((what, index) => {
      const part = elementAt(parts, index)
      if (what === 'form')
        return part === 'item' || part === 'make' ? [] : [unknown(at, 'form', part)]
      if (what === 'field')
        return Object.hasOwn(document.fields, part) || builtInHandles.has(part)
          ? []
          : [unknown(at, 'field', part)]
      // What is left of a shape’s words here is a section’s name.
      return Object.hasOwn(document[what] as object, part)
        ? []
        : [unknown(at, sectionWords[what as 'types'], part)]
    })
    if (entry !== 'out') missing.push(...insideProblems(document, at, parts, entry))
    if (entry !== 'out' && kind === 'ladder' && !(entry.ladder && document.ladders[entry.ladder]))
      return [...missing, unknown(`${at}/ladder`, 'ladder', entry.ladder ?? '')]
    return missing
  })
}

/** What an entry names inside: statuses and fields of a requirement, the field another is shown by, the types a family is required for. */
function insideProblems(
  document: DefinitionsDocument,
  at: string,
  parts: readonly string[],
  entry: RulebookEntry,
): Problem[] {
  const field = (id: string, where: string): Problem[] =>
    Object.hasOwn(document.fields, id) || builtInHandles.has(id)
      ? []
      : [unknown(`${at}/${where}`, 'field', id)]
  const { requires, shownWhen, requiredFor = [] } = entry
  return [
    ...(requires?.filled ?? []).flatMap((id) => field(id, 'requires/filled')),
    ...(requires?.been ?? [])
      .filter((status) => !document.statuses[status])
      .map((status) => unknown(`${at}/requires/been`, 'status', status)),
    ...(shownWhen ? field(shownWhen.field, 'shownWhen/field') : []),
    ...(shownWhen && shownWhen.field === parts[2]
      ? [
          {
            pointer: `${at}/shownWhen/field`,
            message: 'A field cannot wait for its own value.',
            expected: 'another field',
            found: shownWhen.field,
          },
        ]
      : []),
    ...(entry.required && isComputed(document.fields[parts[2] ?? '']?.kind ?? 'text')
      ? [
          {
            pointer: `${at}/required`,
            message: 'A computed field cannot be required: nobody fills it.',
            expected: 'false',
          },
        ]
      : []),
    ...requiredFor
      .filter((type) => !document.types[type])
      .map((type) => unknown(`${at}/requiredFor`, 'type', type)),
  ]
}

/** A flow must begin somewhere, keep to its own statuses, reach all of them and be left from wherever work is still open. */
function flowProblems(document: DefinitionsDocument, rulebook: string): Problem[] {
  return typesOf(document, rulebook).flatMap((type) => {
    const flow = flowOf(document, rulebook, type)
    const typeTitle = document.types[type]?.title ?? type
    const at = pointer('rulebooks', rulebook, 'entries', `type:${type}`)
    if (!flow.start || !flow.statuses.includes(flow.start))
      return [
        {
          pointer: `${at}/start`,
          found: flow.start ?? '',
          message: `The flow of “${typeTitle}” does not say in which of its statuses an item starts.`,
          expected: 'one of its statuses',
        },
      ]
    const moves = [...flow.moves].map((move) => halves(move, ':'))
    const own = Object.keys(entryOf(document.rulebooks, rulebook).entries)
      .filter(
        (key) =>
          key.startsWith(`move:${type}:`) &&
          entryOf(document.rulebooks, rulebook).entries[key] !== 'out',
      )
      .map((key) => halves(key.slice(`move:${type}:`.length), ':'))
    const stray = own
      .filter(([from, to]) => !flow.statuses.includes(from) || !flow.statuses.includes(to))
      .map(([from, to]) => ({
        pointer: pointer('rulebooks', rulebook, 'entries', `move:${type}:${from}:${to}`),
        found: `${from} to ${to}`,
        message: `The flow of “${typeTitle}” has a move of a status it does not use.`,
        expected: 'statuses of the flow',
      }))
    const reached = new Set([flow.start])
    for (const status of reached)
      for (const [from, to] of moves) if (from === status) reached.add(to)
    const title = (status: string): string => document.statuses[status]?.title ?? status
    const unreached = flow.statuses
      .filter((status) => !reached.has(status))
      .map((status) => ({
        pointer: pointer('rulebooks', rulebook, 'entries', `status:${type}:${status}`),
        message: `Nothing leads to “${title(status)}” in the flow of “${typeTitle}”.`,
        expected: 'a move to it',
      }))
    const stuck = flow.statuses
      .filter(
        (status) =>
          reached.has(status) &&
          !['done', 'dropped'].includes(document.statuses[status]?.phase ?? '') &&
          !moves.some(([from]) => from === status),
      )
      .map((status) => ({
        pointer: pointer('rulebooks', rulebook, 'entries', `status:${type}:${status}`),
        message: `No move leads out of “${title(status)}” in the flow of “${typeTitle}”.`,
        expected: 'a move from it',
      }))
    return [...stray, ...unreached, ...stuck]
  })
}

export function projects(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.projects)
    .filter(([, rulebook]) => !document.rulebooks[rulebook])
    .map(([project, rulebook]) => unknown(pointer('projects', project), 'rulebook', rulebook))
}
