import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { pointer, type Problem } from './problem.ts'
import {
  fieldKind,
  fieldParts,
  type FieldValues,
  hasPart,
  isComputed,
} from '../document/fieldKinds.ts'
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
  const formula = computed ? formulaRules(document) : () => []
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

function fieldShape(id: string, field: Field): Problem[] {
  const choice = hasPart(field.kind, 'options')
  const stray = fieldParts
    .filter((part) => field[part] !== undefined && !hasPart(field.kind, part))
    .map((part) => ({
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
        found: entryOf(field.options ?? {}, option).title,
        message: `“${field.title}” has two options of this title.`,
        expected: 'a title of its own',
      }),
    ),
  ]
}

/** What is wrong with what computes a field; it looks at the other fields, so that their vocabulary is made once. */
function formulaRules(document: DefinitionsDocument): (id: string, field: Field) => Problem[] {
  const vocabulary = vocabularyOf(document, {
    projects: [],
    people: [],
    labels: [],
    components: [],
    iterations: [],
    releases: [],
    teams: [],
    calendars: [],
  })
  return (id, field) => {
    if (field.kind === 'roll-up')
      return vocabulary.properties.has(field.handle)
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
    const read = readScore(field.formula ?? '', vocabulary)
    return read.ok
      ? []
      : read.errors.slice(0, 1).map((error) => ({
          pointer: pointer('fields', id, 'formula'),
          message: `The formula of “${field.title}”: ${error.message}${error.nearest ? ` Did you mean ${error.nearest}?` : ''}`,
          expected: error.expected ?? 'arithmetic over numbers',
          found: error.found ?? field.formula ?? '',
        }))
  }
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
  const { pattern } = field
  if (pattern !== undefined)
    problems.push(
      ...patternProblems(field.title, pattern).map((message) => ({
        pointer: at('pattern'),
        message,
        expected: 'a regular expression that neither looks around nor refers back',
        found: pattern,
      })),
    )
  if (field.default !== undefined && !fitsKind(field))
    problems.push({
      pointer: at('default'),
      message: `The default of “${field.title}” is not a value of its kind, ${field.kind}.`,
      expected: fieldKind(field.kind).standard ?? 'no default',
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

const isPerson = (value: unknown): boolean => typeof value === 'string' && value.startsWith('pe_')

/** Whether a value may be the default of a field, by what the values of its kind are. */
const fitsValues: Readonly<Record<FieldValues, (value: unknown, field: Field) => boolean>> = {
  text: (value, { pattern }) =>
    typeof value === 'string' && (pattern === undefined || fitsPattern(pattern, value)),
  number: (value, field) => typeof value === 'number' && isWithin(field, value),
  date: (value) => typeof value === 'string' && (isRelativeDay(value) || isDay(value)),
  timestamp: (value) => typeof value === 'string' && (isRelativeDay(value) || isInstantText(value)),
  boolean: (value) => typeof value === 'boolean',
  option: (value, { options = {} }) => typeof value === 'string' && options[value] !== undefined,
  person: isPerson,
}

/** Whether the default of a field is a value of its kind, and within its rules. */
function fitsKind(field: Field): boolean {
  const { default: value } = field
  const { values, standard, several } = fieldKind(field.kind)
  if (standard === undefined) return false
  if (values === 'person' && value === 'me') return true
  const fits = (entry: unknown): boolean => fitsValues[values](entry, field)
  return several ? Array.isArray(value) && value.every(fits) : fits(value)
}

const isWithin = ({ smallest = -Infinity, largest = Infinity }: Field, value: number): boolean =>
  value >= smallest && value <= largest
