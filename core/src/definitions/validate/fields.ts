import type { DefinitionsDocument } from '../document/document.ts'
import { pointer, type Problem } from './problem.ts'
import { isComputed } from '../document/fieldKinds.ts'
import { vocabularyOf } from '../../vocabulary/vocabularyOf.ts'
import type { Field } from '../document/entries.ts'
import { readScore } from '../../queries/score.ts'
import { repeated } from './titles.ts'
import { patternOf } from '../document/pattern.ts'
import { isRelativeDay } from '../document/standard.ts'
import { isDay, isInstantText } from '../../calendar/day.ts'

export function fields(document: DefinitionsDocument): Problem[] {
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
        teams: [],
        calendars: [],
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

const isPerson = (value: unknown): boolean => typeof value === 'string' && value.startsWith('pe_')

/** Whether the default of a field is a value of its kind, and within its rules. */
function fitsKind(field: Field): boolean {
  const { kind, default: standard, options = {} } = field
  const offered = (option: unknown): boolean =>
    typeof option === 'string' && options[option] !== undefined
  switch (kind) {
    case 'text':
    case 'long text':
    case 'web address':
      return (
        typeof standard === 'string' &&
        (field.pattern === undefined || fitsPattern(field.pattern, standard))
      )
    case 'number':
      return typeof standard === 'number' && isWithin(field, standard)
    case 'date':
      return typeof standard === 'string' && (isRelativeDay(standard) || isDay(standard))
    case 'moment':
      return typeof standard === 'string' && (isRelativeDay(standard) || isInstantText(standard))
    case 'yes/no':
      return typeof standard === 'boolean'
    case 'choice':
      return offered(standard)
    case 'several choices':
      return Array.isArray(standard) && standard.every(offered)
    case 'person':
      return standard === 'me' || isPerson(standard)
    case 'people':
      return standard === 'me' || (Array.isArray(standard) && standard.every(isPerson))
    default:
      return false
  }
}

const isWithin = ({ smallest = -Infinity, largest = Infinity }: Field, value: number): boolean =>
  value >= smallest && value <= largest
