import { isDay, isInstantText } from '../../calendar/day.ts'
import { builtIns } from '../../vocabulary/vocabulary.ts'
import { readScore } from '../../queries/score.ts'
import { isReserved } from '../../queries/name.ts'
import { functionNames } from '../../queries/functions.ts'
import {
  isComputed,
  sections,
  sectionWords,
  type DefinitionsDocument,
  type Field,
  type RulebookEntry,
} from '../document/document.ts'
import { patternOf } from '../document/pattern.ts'
import { flowOf, typesOf } from '../rulebook/rulebook.ts'
import { isRelativeDay } from '../document/standard.ts'
import { vocabularyOf } from '../../vocabulary/vocabularyOf.ts'

/** One thing wrong with a document: where, as a JSON pointer, what it is and what would do. */
export interface Problem {
  readonly pointer: string
  readonly message: string
  readonly expected?: string
  readonly found?: string
}

const pointer = (...path: string[]): string =>
  path.map((key) => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')

/**
 * Judges what a schema cannot: names that must differ, references that must resolve, flows that can be walked.
 * The document is taken to fit the schema.
 *
 * @returns every problem, in the order of the sections; none when the document may become an edition
 */
export function validate(document: DefinitionsDocument): Problem[] {
  return [
    ...titles(document),
    ...handles(document),
    ...fields(document),
    ...types(document),
    ...monograms(document),
    ...linkKinds(document),
    ...limits(document),
    ...ladders(document),
    ...rulebooks(document),
    ...projects(document),
  ]
}

function titles(document: DefinitionsDocument): Problem[] {
  return sections.flatMap((section) =>
    repeated(
      Object.entries(document[section]).map(([id, entry]) => [
        id,
        entry.title.trim().toLowerCase(),
      ]),
    ).map(([id, twin]) => ({
      pointer: pointer(section, id, 'title'),
      found: document[section][id]!.title,
      message: `There is already a ${sectionWords[section]} called “${document[section][twin]!.title}”.`,
      expected: 'a title of its own',
    })),
  )
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
  const taken = new Set<string>([
    ...builtIns.map((property) => property.handle),
    ...functionNames,
    'date',
    'timestamp',
    'interval',
    'casei',
    'accenti',
  ])
  return [
    ...fields
      .filter(([, { handle }]) => taken.has(handle) || isReserved(handle))
      .map(([id, { handle }]) => ({
        pointer: pointer('fields', id, 'handle'),
        found: handle,
        message: `“${handle}” already has a meaning in queries.`,
        expected: 'another handle',
      })),
    ...repeated(fields.map(([id, { handle }]) => [id, handle])).map(([id, twin]) => ({
      pointer: pointer('fields', id, 'handle'),
      found: document.fields[id]!.handle,
      message: `The field “${document.fields[twin]!.title}” has this handle.`,
      expected: 'another handle',
    })),
  ]
}

function fields(document: DefinitionsDocument): Problem[] {
  const all = Object.entries(document.fields)
  const computed = all.some(([, field]) => isComputed(field.kind))
  const vocabulary = computed
    ? vocabularyOf(document, {
        projects: [],
        people: [],
        labels: [],
        components: [],
        iterations: [],
        releases: [],
      })
    : undefined
  const formula = (id: string, field: Field): Problem[] => {
    if (field.kind === 'roll-up')
      return vocabulary!.properties.has(field.handle)
        ? []
        : [
            {
              pointer: pointer('fields', id, 'rollUp'),
              message: `“${field.title}” rolls up a number that is not defined.`,
              expected: 'how, and the handle of a number that items hold',
              found: field.rollUp?.of ?? '',
            },
          ]
    if (field.kind !== 'score') return []
    const read = readScore(field.formula ?? '', vocabulary!)
    return read.ok
      ? []
      : read.errors.slice(0, 1).map((error) => ({
          pointer: pointer('fields', id, 'formula'),
          message: `The formula of “${field.title}”: ${error.message}${error.nearest ? ` Did you mean ${error.nearest}?` : ''}`,
          expected: error.expected ?? 'arithmetic over numbers',
          found: error.found ?? field.formula ?? '',
        }))
  }
  return [
    ...all.flatMap(([id, field]) => [
      ...fieldShape(id, field),
      ...fieldRules(id, field),
      ...formula(id, field),
    ]),
    ...sharedOptions(document),
  ]
}

/** An option belongs to one field: items hold it by its identity alone. */
function sharedOptions(document: DefinitionsDocument): Problem[] {
  const first = new Map<string, string>()
  return Object.entries(document.fields).flatMap(([id, { title, options = {} }]) =>
    Object.keys(options).flatMap((option): Problem[] => {
      const other = first.get(option)
      if (other === undefined) first.set(option, title)
      return other === undefined
        ? []
        : [
            {
              pointer: pointer('fields', id, 'options', option),
              message: `This option has the identity of one of “${other}”.`,
              expected: 'an identity of its own',
              found: option,
            },
          ]
    }),
  )
}

/** Which kinds of field a part of a field belongs to. */
const partKinds: Partial<Record<keyof Field, readonly Field['kind'][]>> = {
  unit: ['number', 'score', 'roll-up'],
  decimals: ['number', 'score', 'roll-up'],
  smallest: ['number'],
  largest: ['number'],
  pattern: ['text', 'web address'],
  options: ['choice', 'several choices'],
  formula: ['score'],
  empty: ['score'],
  rollUp: ['roll-up'],
}

function fieldShape(id: string, field: Field): Problem[] {
  const choice = field.kind === 'choice' || field.kind === 'several choices'
  const stray = Object.entries(partKinds)
    .filter(
      ([part, kinds]) => field[part as keyof Field] !== undefined && !kinds.includes(field.kind),
    )
    .map(([part]) => ({
      pointer: pointer('fields', id, part),
      message: `“${field.title}” is of kind ${field.kind}, which has no ${part === 'rollUp' ? 'roll-up' : part}.`,
      expected: `no ${part}`,
    }))
  const options = Object.entries(field.options ?? {})
  const bare =
    choice && options.length === 0
      ? [
          {
            pointer: pointer('fields', id, 'options'),
            message: `“${field.title}” is a choice without options.`,
            expected: 'at least one option',
          },
        ]
      : []
  return [
    ...stray,
    ...bare,
    ...repeated(options.map(([option, { title }]) => [option, title.trim().toLowerCase()])).map(
      ([option]) => ({
        pointer: pointer('fields', id, 'options', option, 'title'),
        found: field.options![option]!.title,
        message: `“${field.title}” has two options of this title.`,
        expected: 'a title of its own',
      }),
    ),
  ]
}

function fieldRules(id: string, field: Field): Problem[] {
  const at = (part: string): string => pointer('fields', id, part)
  const problems: Problem[] = []
  if (field.smallest !== undefined && field.largest !== undefined && field.smallest > field.largest)
    problems.push({
      pointer: at('smallest'),
      message: `The smallest value of “${field.title}” is larger than its largest.`,
      expected: `at most ${field.largest}`,
      found: String(field.smallest),
    })
  if (field.pattern !== undefined)
    problems.push(
      ...patternProblems(field.title, field.pattern).map((message) => ({
        pointer: at('pattern'),
        message,
        expected: 'a regular expression that neither looks around nor refers back',
        found: field.pattern!,
      })),
    )
  if (field.default !== undefined && !fitsKind(field))
    problems.push({
      pointer: at('default'),
      message: `The default of “${field.title}” is not a value of its kind, ${field.kind}.`,
      expected: defaultWords[field.kind] ?? 'no default',
      found: JSON.stringify(field.default),
    })
  return problems
}

function patternProblems(title: string, expression: string): string[] {
  const pattern = patternOf(expression)
  return pattern.ok ? [] : [`The pattern of “${title}” cannot be used: ${pattern.message}.`]
}

/** Whether a text fits a pattern; one that cannot be used is told by itself. */
function fitsPattern(expression: string, text: string): boolean {
  const pattern = patternOf(expression)
  return !pattern.ok || pattern.matches(text)
}

const defaultWords: Partial<Record<Field['kind'], string>> = {
  text: 'text',
  'long text': 'text',
  'web address': 'https://…',
  number: 'a number within its limits',
  date: 'a day, or today with days added: today+14',
  moment: 'a moment in UTC, or today',
  'yes/no': 'true or false',
  choice: 'the identity of one of its options',
  'several choices': 'identities of its options',
  person: 'me, or the identity of a person',
  people: 'me, or identities of people',
}

function fitsKind(field: Field): boolean {
  const { kind, default: standard } = field
  const text = typeof standard === 'string'
  const offered = (option: unknown): boolean =>
    typeof option === 'string' && field.options?.[option] !== undefined
  switch (kind) {
    case 'text':
    case 'long text':
    case 'web address':
      return text && (field.pattern === undefined || fitsPattern(field.pattern, standard))
    case 'number':
      return (
        typeof standard === 'number' &&
        standard >= (field.smallest ?? -Infinity) &&
        standard <= (field.largest ?? Infinity)
      )
    case 'date':
      return text && (isRelativeDay(standard) || isDay(standard))
    case 'moment':
      return text && (isRelativeDay(standard) || isInstantText(standard))
    case 'yes/no':
      return typeof standard === 'boolean'
    case 'choice':
      return offered(standard)
    case 'several choices':
      return Array.isArray(standard) && standard.every(offered)
    case 'person':
      return text && (standard === 'me' || standard.startsWith('pe_'))
    case 'people':
      return (
        standard === 'me' ||
        (Array.isArray(standard) && standard.every((one) => one.startsWith('pe_')))
      )
    default:
      return false
  }
}

function types(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.types).flatMap(([id, type]) =>
    (type.below ?? []).flatMap((child): Problem[] => {
      const at = pointer('types', id, 'below')
      if (!document.types[child]) return [unknown(at, 'type', child)]
      return document.types[child].tier < type.tier
        ? []
        : [
            {
              pointer: at,
              found: child,
              message: `“${document.types[child].title}” is of tier ${document.types[child].tier}, so it cannot stand below “${type.title}” of tier ${type.tier}.`,
              expected: 'types of a lower tier',
            },
          ]
    }),
  )
}

function linkKinds(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.linkKinds).flatMap(([id, kind]) =>
    (['from', 'to'] as const).flatMap((end) =>
      (kind[end] ?? [])
        .filter((type) => !document.types[type])
        .map((type) => unknown(pointer('linkKinds', id, end), 'type', type)),
    ),
  )
}

function limits(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.limits).flatMap(([id, limit]) => [
    ...(['starts', 'stops', 'ends'] as const).flatMap((part) =>
      (limit[part] ?? [])
        .filter((status) => !document.statuses[status])
        .map((status) => unknown(pointer('limits', id, part), 'status', status)),
    ),
    ...limit.allowances.flatMap((allowance, index) => [
      ...(allowance.priority && !document.priorities[allowance.priority]
        ? [
            unknown(
              pointer('limits', id, 'allowances', String(index), 'priority'),
              'priority',
              allowance.priority,
            ),
          ]
        : []),
      ...([allowance.urgency, allowance.priority, allowance.label].filter(
        (one) => one !== undefined,
      ).length > 1
        ? [
            {
              pointer: pointer('limits', id, 'allowances', String(index)),
              message: `An allowance of “${limit.title}” goes by an urgency, a priority or a label, not by several.`,
              expected: 'one of them, or none',
            },
          ]
        : []),
    ]),
  ])
}

function monograms(document: DefinitionsDocument): Problem[] {
  return repeated(Object.entries(document.types).map(([id, { monogram }]) => [id, monogram])).map(
    ([id, twin]) => ({
      pointer: pointer('types', id, 'monogram'),
      found: document.types[id]!.monogram,
      message: `“${document.types[twin]!.title}” has this monogram.`,
      expected: 'two other letters',
    }),
  )
}

function ladders(document: DefinitionsDocument): Problem[] {
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

const unknown = (at: string, word: string, found: string): Problem => ({
  pointer: at,
  found,
  message: `This names a ${word} that is not defined.`,
  expected: `the identity of a ${word}`,
})

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
    if (seen.has(next))
      return {
        pointer: at,
        found: next,
        message: `“${document.rulebooks[id]!.title}” extends itself in a circle.`,
        expected: 'a rulebook that does not rest on this one',
      }
    seen.add(next)
  }
  return undefined
}

const builtInHandles = new Set(builtIns.map((property) => property.handle))

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
  return Object.entries(document.rulebooks[id]!.entries).flatMap(([key, entry]) => {
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
      const part = parts[index]!
      if (what === 'form')
        return part === 'item' || part === 'make' ? [] : [unknown(at, 'form', part)]
      if (what === 'field')
        return Object.hasOwn(document.fields, part) || builtInHandles.has(part)
          ? []
          : [unknown(at, 'field', part)]
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
    const moves = [...flow.moves].map((move) => move.split(':') as [string, string])
    const own = Object.keys(document.rulebooks[rulebook]!.entries)
      .filter(
        (key) =>
          key.startsWith(`move:${type}:`) && document.rulebooks[rulebook]!.entries[key] !== 'out',
      )
      .map((key) => key.split(':').slice(2) as [string, string])
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

function projects(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.projects)
    .filter(([, rulebook]) => !document.rulebooks[rulebook])
    .map(([project, rulebook]) => unknown(pointer('projects', project), 'rulebook', rulebook))
}
