import type { ChangesWith, Domain, Type } from './vocabulary.ts'

/** What may stand as an argument. `held` is a literal of the kind of the property that is the first argument. */
export type Parameter =
  | {
      readonly kind: 'whole'
      readonly name: string
      /** how far it may lie from 0 */ readonly most: number
    }
  | { readonly kind: 'choice'; readonly name: string; readonly domain: Domain }
  | { readonly kind: 'label'; readonly name: string }
  | { readonly kind: 'words'; readonly name: string }
  | { readonly kind: 'teams'; readonly name: string }
  | { readonly kind: 'property'; readonly name: string }
  | { readonly kind: 'held'; readonly name: string }
  | { readonly kind: 'interval'; readonly name: string }

export interface FunctionEntry {
  /** the ways it can be called, shortest first */
  readonly forms: readonly (readonly Parameter[])[]
  readonly result: Type
  readonly changesWith: readonly ChangesWith[]
  /** whether it may be empty for an item */
  readonly nullable: boolean
  /** what it gives, in words; `$1` … are its arguments in words */
  readonly sentence: string
  readonly doc: string
}

/** A count of periods: relative functions reach a hundred years either way. */
const whole = (name: string, most: number): Parameter => ({ kind: 'whole', name, most })
const offset = {
  day: whole('offset', 36_525),
  week: whole('offset', 5218),
  month: whole('offset', 1200),
  quarter: whole('offset', 400),
  year: whole('offset', 100),
}

const choice = (name: string, domain: Domain): Parameter => ({ kind: 'choice', name, domain })
const property: Parameter = { kind: 'property', name: 'property' }
const held: Parameter = { kind: 'held', name: 'value' }
const interval: Parameter = { kind: 'interval', name: 'interval' }

const clockDay = { result: { kind: 'date' }, changesWith: ['clock'], nullable: false } as const
const clockSpan = { result: { kind: 'interval' }, changesWith: ['clock'], nullable: false } as const
const ownTruth = { result: { kind: 'boolean' }, changesWith: ['own'], nullable: false } as const
const ownMoment = { result: { kind: 'timestamp' }, changesWith: ['own'], nullable: true } as const

/** The one table of functions: everything about a function but its SQL, which `server/src/sql/functions.ts` keeps under the same names. */
export const functions = {
  me: {
    forms: [[]],
    result: { kind: 'choice', domain: 'person' },
    changesWith: ['asker'],
    nullable: true,
    sentence: 'me',
    doc: 'the person who asks',
  },
  my_teams: {
    forms: [[]],
    result: { kind: 'array', domain: 'team' },
    changesWith: ['asker'],
    nullable: false,
    sentence: 'my teams',
    doc: 'the teams of the person who asks',
  },
  in_remit: {
    forms: [[{ kind: 'teams', name: 'team' }]],
    result: { kind: 'boolean' },
    changesWith: ['own', 'kin', 'clock', 'definition'],
    nullable: false,
    sentence: 'is in the remit of $1',
    doc: 'is in the remit of that team, or of any of my_teams()',
  },
  limit_left: {
    forms: [[choice('limit', 'limit')]],
    result: { kind: 'number' },
    changesWith: ['own', 'kin', 'clock', 'definition'],
    nullable: true,
    sentence: 'working hours left of the time limit $1',
    doc: 'working hours until that time limit runs out, below 0 once it has; unknown where its clock does not run',
  },
  now: {
    forms: [[]],
    result: { kind: 'timestamp' },
    changesWith: ['clock'],
    nullable: false,
    sentence: 'now',
    doc: 'the moment asked about',
  },
  today: { forms: [[]], ...clockDay, sentence: 'today', doc: 'the day asked about' },
  days_ago: {
    forms: [[whole('days', 36_525)]],
    ...clockDay,
    sentence: '$1 days ago',
    doc: 'the day so many days before today',
  },
  days_ahead: {
    forms: [[whole('days', 36_525)]],
    ...clockDay,
    sentence: '$1 days from today',
    doc: 'the day so many days after today',
  },
  day: {
    forms: [[offset.day]],
    ...clockSpan,
    sentence: 'day $1',
    doc: 'the day so many days from today, as an interval',
  },
  week: {
    forms: [[offset.week]],
    ...clockSpan,
    sentence: 'week $1',
    doc: 'the ISO week so many weeks from this one',
  },
  month: {
    forms: [[offset.month]],
    ...clockSpan,
    sentence: 'month $1',
    doc: 'the month so many months from this one',
  },
  quarter: {
    forms: [[offset.quarter]],
    ...clockSpan,
    sentence: 'quarter $1',
    doc: 'the quarter so many quarters from this one',
  },
  year: {
    forms: [[offset.year]],
    ...clockSpan,
    sentence: 'year $1',
    doc: 'the year so many years from this one',
  },
  has_label: {
    forms: [
      [{ kind: 'label', name: 'label' }],
      [choice('family', 'family'), { kind: 'label', name: 'label' }],
    ],
    ...ownTruth,
    sentence: 'carries the label $*',
    doc: 'carries that free label, or that label of a family',
  },
  in_family: {
    forms: [[choice('family', 'family')]],
    ...ownTruth,
    sentence: 'carries any label of $1',
    doc: 'carries any label of the family',
  },
  words: {
    forms: [[{ kind: 'words', name: 'words' }]],
    ...ownTruth,
    sentence: 'holds the words $1',
    doc: 'all these whole words stand in its title, description, comments or labels; case and accents make no difference',
  },
  days_in: {
    forms: [
      [property, held],
      [property, held, interval],
    ],
    result: { kind: 'number' },
    changesWith: ['own', 'clock'],
    nullable: false,
    sentence: 'days with $1 $2',
    doc: 'days of 24 hours it has had that value (in that span), with decimals; an array: held it',
  },
  changes_of: {
    forms: [[property], [property, interval], [property, interval, choice('person', 'person')]],
    result: { kind: 'number' },
    changesWith: ['own'],
    nullable: false,
    sentence: 'changes of $1',
    doc: 'how many times it was changed (in that span) (by that person); being made is no change',
  },
  first_into: {
    forms: [[choice('phase', 'phase')]],
    ...ownMoment,
    sentence: 'first becoming $1',
    doc: 'when it first entered the phase',
  },
  last_into: {
    forms: [[choice('phase', 'phase')]],
    ...ownMoment,
    sentence: 'last becoming $1',
    doc: 'when it last entered the phase',
  },
} as const satisfies Record<string, FunctionEntry>

export type FunctionName = keyof typeof functions

export const functionNames = Object.keys(functions) as FunctionName[]

export const functionEntry = (name: FunctionName): FunctionEntry => functions[name]
