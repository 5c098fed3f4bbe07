import type { Facts, ItemState, Moment } from './facts.ts'
import type { CheckedCall, Condition, Value } from './checked.ts'
import { instants, type Result } from './evaluate.ts'
import { type Period, periodAround } from '../calendar/period.ts'
import type { FunctionName } from './functions.ts'
import { addDays } from '../calendar/day.ts'
import { clockOf, hoursLeft } from '../limits/clock.ts'
import type { WorkingTime } from '../calendar/working.ts'
import { Decimal } from './decimal.ts'
import type { Interval } from './interval.ts'
import { order, sameHeld } from './compare.ts'
import type { Truth } from './truth.ts'
import { teamsNamed, teamsOf } from './vocabulary.ts'
import { wordsOf } from './words.ts'

export interface Caller {
  readonly states: readonly ItemState[]
  readonly facts: Facts
  readonly moment: Moment
  readonly today: string
  readonly value: (value: Value) => Result
  readonly truth: (condition: Condition) => Truth
}

type Evaluator = (caller: Caller, call: CheckedCall) => Result

const whole = (call: CheckedCall): number => Number((call.args[0] as { value: string }).value)

const choiceOf = (value: Value | undefined): string => (value as { value: string }).value

const span =
  (period: Period): Evaluator =>
  ({ today }, call) => {
    const { from, to } = periodAround(period, today, whole(call))
    return { start: { kind: 'day', day: from }, end: { kind: 'day', day: to } }
  }

/** The evaluator of each function of the table, from the item's own states. */
export const calls: Record<FunctionName, Evaluator> = {
  me: ({ moment }) => moment.me,
  my_teams: ({ moment }) => teamsOf(moment.vocabulary, moment.me).map(({ id }) => id),
  // A remit that cannot tell counts as no.
  in_remit: ({ moment, truth }, call) =>
    teamsNamed(moment.vocabulary, call.args, moment.me).some(
      ({ remit }) => remit !== null && truth(remit) === true,
    ),
  limit_left: limitLeft,
  now: ({ moment }) => moment.now,
  today: ({ today }) => today,
  days_ago: ({ today }, call) => addDays(today, -whole(call)),
  days_ahead: ({ today }, call) => addDays(today, whole(call)),
  day: span('day'),
  week: span('week'),
  month: span('month'),
  quarter: span('quarter'),
  year: span('year'),
  has_label: ({ facts }, call) =>
    (facts['labels'] as readonly string[]).includes(choiceOf(call.args.at(-1))),
  in_family: ({ facts, moment }, call) =>
    (facts['labels'] as readonly string[]).some(
      (id) => moment.vocabulary.choice('label', id)?.family === choiceOf(call.args[0]),
    ),
  words: ({ facts, moment }, call) => {
    const titles = (facts['labels'] as readonly string[]).map(
      (id) =>
        moment.vocabulary.choice('label', id)?.own ?? moment.vocabulary.choice('label', id)?.title,
    )
    const texts = [
      facts['title'],
      facts['description'],
      ...titles,
      ...((facts['comment_texts'] ?? []) as readonly string[]),
    ]
    const held = new Set(texts.flatMap((text) => wordsOf(String(text ?? ''))))
    return wordsOf(choiceOf(call.args[0])).every((word) => held.has(word))
  },
  days_in: daysIn,
  changes_of: changesOf,
  first_into: ({ states }, call) =>
    states.find((state) => state.facts['phase'] === choiceOf(call.args[0]))?.from ?? null,
  last_into: ({ states }, call) => {
    const phase = choiceOf(call.args[0])
    return (
      states.findLast(
        (state, index) =>
          state.facts['phase'] === phase && states[index - 1]?.facts['phase'] !== phase,
      )?.from ?? null
    )
  },
}

/** The working time by which the clocks of an item run: that of the first team that has it in its remit and a calendar, else its project's. */
function workingOf({ facts, moment: { vocabulary }, truth }: Caller): WorkingTime {
  const team = vocabulary.teams.find(
    ({ working, remit }) => working !== null && remit !== null && truth(remit) === true,
  )
  return team?.working ?? vocabulary.workingOf(String(facts['project']))
}

function limitLeft(caller: Caller, call: CheckedCall): Decimal | null {
  const { states, facts, moment } = caller
  const limit = moment.vocabulary.limits.get(choiceOf(call.args[0]))
  if (!limit?.projects.has(String(facts['project']))) return null
  const priority = (facts['priority'] as string | null | undefined) ?? null
  const clock = clockOf(
    limit,
    states.map(({ from, facts: held }) => ({
      from,
      status: String(held['status']),
      onHold: held['on_hold'] === true,
    })),
    {
      priority,
      urgency: priority === null ? null : moment.vocabulary.urgencyOf(priority),
      labels: facts['labels'] as readonly string[],
    },
    moment.now,
    workingOf(caller),
    moment.zone,
  )
  const left = hoursLeft(clock)
  return left === null ? null : new Decimal(left)
}

const dayInMilliseconds = 86_400_000

function daysIn({ states, moment, value }: Caller, call: CheckedCall): Decimal | null {
  const [property, wanted] = call.args as [Extract<Value, { kind: 'property' }>, Value]
  const within = instants(
    call.args[2]
      ? (value(call.args[2]) as Interval | null)
      : { start: { kind: 'open' }, end: { kind: 'open' } },
    moment.zone,
  )
  if (!within) return null
  const target = value(wanted)
  let milliseconds = 0
  for (const [index, state] of states.entries()) {
    const held = state.facts[property.property.handle] ?? null
    const same = Array.isArray(held)
      ? held.includes(target)
      : held !== null &&
        order(property.type.kind === 'number' ? new Decimal(held as string) : held, target!) === 0
    const until = Math.min(states[index + 1]?.from ?? moment.now, within.end)
    if (same) milliseconds += Math.max(0, until - Math.max(state.from, within.start))
  }
  return new Decimal(milliseconds).dividedBy(dayInMilliseconds)
}

function changesOf({ states, moment, value }: Caller, call: CheckedCall): Decimal | null {
  const [property] = call.args as [Extract<Value, { kind: 'property' }>]
  const within = call.args[1]
    ? instants(value(call.args[1]) as Interval | null, moment.zone)
    : { start: -Infinity, end: Infinity }
  if (!within) return null
  const person = call.args[2] ? choiceOf(call.args[2]) : undefined
  const { handle } = property.property
  const changes = states.filter((state, index) => {
    if (index === 0 || state.byEdition || state.from < within.start || state.from >= within.end)
      return false
    if (person !== undefined && state.by !== person) return false
    return !sameHeld(state.facts[handle] ?? null, states[index - 1]!.facts[handle] ?? null)
  })
  return new Decimal(changes.length)
}
