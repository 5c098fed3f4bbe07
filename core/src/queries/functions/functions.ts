import { entryOf, keysOf } from '../../known/index.ts'
import { addDays } from '../../calendar/day.ts'
import { type Period, periodAround } from '../../calendar/period.ts'
import { limitLeft } from './clocks.ts'
import { type Evaluator, type FunctionEntry, literalIn, type Parameter } from './entry.ts'
import { hasLabel, hasWords, inFamily } from './labels.ts'
import { changesOf, daysIn, firstInto, lastInto } from './past.ts'
import { teamsNamed, teamsOf } from '../tree/vocabulary.ts'
import type { Domain } from '../tree/checked.ts'

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

/** Words for the last, this and the next period. */
const nearby = (unit: Period): NonNullable<FunctionEntry['near']> => ({
  words: [`last ${unit}`, `this ${unit}`, `next ${unit}`],
  unit,
})

const span =
  (period: Period): Evaluator =>
  ({ today }, call) => {
    const { from, to } = periodAround(period, today, Number(literalIn(call, 0)))
    return { start: { kind: 'day', day: from }, end: { kind: 'day', day: to } }
  }

/** The one table of functions: everything about a function but its SQL, which `server/src/sql/functions.ts` keeps under the same names. */
export const functions = {
  me: {
    forms: [[]],
    result: { kind: 'choice', domain: 'person' },
    changesWith: ['asker'],
    nullable: true,
    sentence: 'me',
    doc: 'the person who asks',
    value: ({ moment }) => moment.me,
  },
  my_teams: {
    forms: [[]],
    result: { kind: 'array', domain: 'team' },
    changesWith: ['asker'],
    nullable: false,
    sentence: 'my teams',
    doc: 'the teams of the person who asks',
    value: ({ moment }) => teamsOf(moment.vocabulary, moment.me).map(({ id }) => id),
  },
  in_remit: {
    forms: [[{ kind: 'teams', name: 'team' }]],
    result: { kind: 'boolean' },
    changesWith: ['own', 'kin', 'clock', 'definition'],
    nullable: false,
    sentence: 'is in the remit of $1',
    isRemit: true,
    doc: 'is in the remit of that team, or of any of my_teams()',
    value: ({ moment, truth }, call) =>
      // A remit that cannot tell counts as no.
      teamsNamed(moment.vocabulary, call.args, moment.me).some(
        ({ remit }) => remit !== null && truth(remit) === true,
      ),
  },
  limit_left: {
    forms: [[choice('limit', 'limit')]],
    result: { kind: 'number' },
    changesWith: ['own', 'kin', 'clock', 'definition'],
    nullable: true,
    sentence: 'working hours left of the time limit $1',
    doc: 'working hours until that time limit runs out, below 0 once it has; unknown where its clock does not run',
    value: limitLeft,
  },
  now: {
    forms: [[]],
    result: { kind: 'timestamp' },
    changesWith: ['clock'],
    nullable: false,
    sentence: 'now',
    doc: 'the moment asked about',
    value: ({ moment }) => moment.now,
  },
  today: {
    forms: [[]],
    ...clockDay,
    sentence: 'today',
    doc: 'the day asked about',
    value: ({ today }) => today,
  },
  days_ago: {
    forms: [[whole('days', 36_525)]],
    ...clockDay,
    sentence: '$1 days ago',
    doc: 'the day so many days before today',
    value: ({ today }, call) => addDays(today, -Number(literalIn(call, 0))),
  },
  days_ahead: {
    forms: [[whole('days', 36_525)]],
    ...clockDay,
    sentence: '$1 days from today',
    doc: 'the day so many days after today',
    value: ({ today }, call) => addDays(today, Number(literalIn(call, 0))),
  },
  day: {
    forms: [[offset.day]],
    ...clockSpan,
    sentence: 'day $1',
    near: { words: ['yesterday', 'today', 'tomorrow'], unit: 'day' },
    doc: 'the day so many days from today, as an interval',
    value: span('day'),
  },
  week: {
    forms: [[offset.week]],
    ...clockSpan,
    sentence: 'week $1',
    near: nearby('week'),
    doc: 'the ISO week so many weeks from this one',
    value: span('week'),
  },
  month: {
    forms: [[offset.month]],
    ...clockSpan,
    sentence: 'month $1',
    near: nearby('month'),
    doc: 'the month so many months from this one',
    value: span('month'),
  },
  quarter: {
    forms: [[offset.quarter]],
    ...clockSpan,
    sentence: 'quarter $1',
    near: nearby('quarter'),
    doc: 'the quarter so many quarters from this one',
    value: span('quarter'),
  },
  year: {
    forms: [[offset.year]],
    ...clockSpan,
    sentence: 'year $1',
    near: nearby('year'),
    doc: 'the year so many years from this one',
    value: span('year'),
  },
  has_label: {
    forms: [
      [{ kind: 'label', name: 'label' }],
      [choice('family', 'family'), { kind: 'label', name: 'label' }],
    ],
    ...ownTruth,
    sentence: 'carries the label $*',
    looksAt: 'labels',
    doc: 'carries that free label, or that label of a family',
    value: hasLabel,
  },
  in_family: {
    forms: [[choice('family', 'family')]],
    ...ownTruth,
    sentence: 'carries any label of $1',
    looksAt: 'labels',
    doc: 'carries any label of the family',
    value: inFamily,
  },
  words: {
    forms: [[{ kind: 'words', name: 'words' }]],
    ...ownTruth,
    sentence: 'holds the words $1',
    looksAt: 'title',
    doc: 'all these whole words stand in its title, description, comments or labels; case and accents make no difference',
    value: hasWords,
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
    value: daysIn,
  },
  changes_of: {
    forms: [[property], [property, interval], [property, interval, choice('person', 'person')]],
    result: { kind: 'number' },
    changesWith: ['own'],
    nullable: false,
    sentence: 'changes of $1',
    doc: 'how many times it was changed (in that span) (by that person); being made is no change',
    value: changesOf,
  },
  first_into: {
    forms: [[choice('phase', 'phase')]],
    ...ownMoment,
    sentence: 'first becoming $1',
    doc: 'when it first entered the phase',
    value: firstInto,
  },
  last_into: {
    forms: [[choice('phase', 'phase')]],
    ...ownMoment,
    sentence: 'last becoming $1',
    doc: 'when it last entered the phase',
    value: lastInto,
  },
} as const satisfies Record<string, FunctionEntry>

export type FunctionName = keyof typeof functions

export const functionNames = keysOf(functions)

/** Whether a function gives the same for every item: it changes with the clock and who asks alone. */
export const isSameForAll = (name: string): boolean =>
  functionEntry(name).changesWith.every((kind) => kind === 'clock' || kind === 'asker')

/** The entry of a function by the name that a checked call has. */
export const functionEntry = (name: string): FunctionEntry =>
  entryOf<FunctionEntry>(functions, name)
