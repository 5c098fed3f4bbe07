import { asNumber, asNumbers, asText, asTexts, firstIn } from '../known/index.ts'
import { addDays, type Day, dayOf, startOfDay } from '../calendar/day.ts'
import {
  type Condition,
  type Value,
  valuesOf,
  type Property,
  type Type,
} from '../queries/tree/checked.ts'
import { constantOf, evaluate } from '../queries/evaluate.ts'
import { functionEntry, isSameForAll } from '../queries/functions/functions.ts'
import type { Result } from '../queries/values/result.ts'
import type { Facts, FactValue, Moment } from '../queries/tree/facts.ts'
import { asInterval } from '../queries/values/interval.ts'
import { teamsNamed } from '../queries/tree/vocabulary.ts'

/** What is known where an item is to be made. */
export interface BirthPlace {
  readonly moment: Moment
  /** the property of a handle, where whoever makes an item may give it */
  readonly givable: (handle: string) => Property | undefined
  /** the choices on offer for a property, the most likely first; none where only the filter can name one */
  readonly offered: (property: Property) => readonly string[]
  /** the phase of a status */
  readonly phaseOf: (status: string) => string | null
}

/** An item as it would be born, and the clauses of the filter that it does not meet. */
export interface Born {
  readonly item: Facts
  /** clauses that no value on offer can meet */
  readonly unmet: readonly Condition[]
  /** clauses that depend on what is written: its title, its description */
  readonly written: readonly Condition[]
}

/** The clauses of a filter that all must hold. */
export const clausesOf = (condition: Condition): readonly Condition[] => {
  if (condition.kind === 'and') return condition.args.flatMap(clausesOf)
  return condition.kind === 'truth' && condition.value ? [] : [condition]
}

/** The clauses of a filter, that a team has an item in its remit told by those of the remit itself, which a new item can be made to meet. */
export const openClausesOf = (
  filter: Condition,
  { vocabulary, me }: Moment,
): readonly Condition[] =>
  clausesOf(filter).flatMap((clause) => {
    if (clause.kind !== 'call' || !functionEntry(clause.name).isRemit) return [clause]
    const remits = teamsNamed(vocabulary, clause.args, me).flatMap(({ remit }) => remit ?? [])
    if (remits.length === 1) return clausesOf(firstIn(remits))
    return [remits.length === 0 ? clause : { kind: 'or' as const, args: remits, at: clause.at }]
  })

/** The handles of the properties that a condition reads of the item itself. */
export const handlesOf = (condition: Condition): ReadonlySet<string> =>
  new Set(
    valuesOf(condition).flatMap((value) => {
      if (value.kind === 'property') return [value.property.handle]
      return value.kind === 'call' ? (functionEntry(value.name).looksAt ?? []) : []
    }),
  )

/** Whether a condition looks at other items, which a new one cannot change. */
const looksAround = (condition: Condition): boolean =>
  valuesOf(condition).some(
    (value) =>
      value.kind === 'property' && (value.ofParent || value.property.computed?.kind === 'roll-up'),
  )

/** Whether a new item meets a clause. */
export const meets = (clause: Condition, item: Facts, moment: Moment): boolean =>
  !looksAround(clause) &&
  evaluate(clause, [{ from: moment.now, facts: item, by: moment.me, byEdition: false }], moment) ===
    true

/** The property that one gives to change another: a phase follows from the status, an urgency from the priority. */
const givenInstead: Readonly<Record<string, string>> = {
  phase: 'status',
  urgency: 'priority',
  rung: 'priority',
  iteration_offset: 'iteration',
  release_offset: 'release',
}

const isConstant = (value: Value): boolean =>
  value.kind === 'literal' ||
  value.kind === 'interval' ||
  (value.kind === 'call' && isSameForAll(value.name))

/** Something a clause compares with, the same for every item. */
interface Constant {
  readonly type: Type
  readonly value: Result
}

/** The days at and beside the ends of what a clause compares with. */
function daysNear({ type, value }: Constant, zone: string): Day[] {
  if (type.kind === 'date') return around(asText(value))
  if (type.kind === 'timestamp') return around(dayOf(asNumber(value), zone))
  if (type.kind !== 'interval' || value === null) return []
  const { start, end } = asInterval(value)
  return [start, end].flatMap((side) => {
    if (side.kind === 'open') return []
    return around(side.kind === 'day' ? side.day : dayOf(side.instant, zone))
  })
}

const around = (day: Day): Day[] => [day, addDays(day, 1), addDays(day, -1)]

/** The values of what a clause compares with that a property of some type can hold. */
const fitting = (constants: readonly Constant[], isFitting: (type: Type) => boolean): Result[] =>
  constants.filter(({ type, value }) => value !== null && isFitting(type)).map(({ value }) => value)

/** Every value a property might take so that a clause holds, the likeliest first. */
function candidatesFor(
  property: Property,
  constants: readonly Constant[],
  held: FactValue,
  { offered, moment }: BirthPlace,
): readonly FactValue[] {
  const { type } = property
  const { now, zone } = moment
  switch (type.kind) {
    case 'choice': {
      const ids = fitting(
        constants,
        (constant) => constant.kind === 'choice' && constant.domain === type.domain,
      )
      return [...asTexts(ids), ...offered(property), null]
    }
    case 'array': {
      const ids = asTexts(
        fitting(
          constants,
          (constant) => constant.kind === 'choice' && constant.domain === type.domain,
        ),
      )
      const before = asTexts(held)
      const single = [...ids, ...offered(property)].map((id) => [...before, id])
      return [[...before, ...ids], ...single, ids, []]
    }
    case 'number':
      return [...fitting(constants, (constant) => constant.kind === 'number').map(String), null]
    case 'boolean':
      return [true, false]
    case 'date':
      return [dayOf(now, zone), ...constants.flatMap((constant) => daysNear(constant, zone)), null]
    case 'timestamp': {
      const days = constants.flatMap((constant) => daysNear(constant, zone))
      const moments = asNumbers(fitting(constants, (constant) => constant.kind === 'timestamp'))
      return [now, ...moments, ...days.map((day) => startOfDay(day, zone)), null]
    }
    default:
      return [...asTexts(fitting(constants, (constant) => constant.kind === 'text')), null]
  }
}

/** The item with a value of its own; a status brings its phase. */
function withValue(item: Facts, handle: string, value: FactValue, place: BirthPlace): Facts {
  const given = { ...item, [handle]: value }
  return handle === 'status' ? { ...given, phase: place.phaseOf(String(value)) } : given
}

/** The item with each value that might make it meet a clause. */
function* attempts(clause: Condition, item: Facts, place: BirthPlace): Generator<Facts> {
  const constants = valuesOf(clause)
    .filter(isConstant)
    .map((value) => ({ type: value.type, value: constantOf(value, place.moment) }))
  for (const read of handlesOf(clause)) {
    const handle = givenInstead[read] ?? read
    const property = place.givable(handle)
    if (!property) continue
    const held = item[handle] ?? null
    for (const value of candidatesFor(property, constants, held, place))
      yield withValue(item, handle, value, place)
  }
}

const written: readonly string[] = ['title', 'description']

/**
 * Finds the values with which a new item belongs among the answers of a filter: clause by clause the first value that meets it and
 * leaves those met before as they are. What is already met is left as the definitions give it.
 *
 * @param start the item as it would be made without the filter
 */
export function bornMatching(filter: Condition, start: Facts, place: BirthPlace): Born {
  const [byWriting, clauses] = parted(openClausesOf(filter, place.moment), (clause) =>
    written.some((handle) => handlesOf(clause).has(handle)),
  )
  let item = start
  const isMet = (clause: Condition, facts: Facts): boolean => meets(clause, facts, place.moment)
  const met = clauses.filter((clause) => isMet(clause, item))
  for (const clause of clauses.filter((clause) => !met.includes(clause))) {
    const found = firstOf(
      attempts(clause, item, place),
      (facts) => isMet(clause, facts) && met.every((condition) => isMet(condition, facts)),
    )
    if (!found) continue
    item = found
    met.push(clause)
  }
  return { item, unmet: clauses.filter((clause) => !isMet(clause, item)), written: byWriting }
}

function firstOf<T>(all: Iterable<T>, isSo: (entry: T) => boolean): T | undefined {
  for (const entry of all) if (isSo(entry)) return entry
  return undefined
}

/** Those of which something is so, and the others. */
function parted<T>(all: readonly T[], isSo: (entry: T) => boolean): [T[], T[]] {
  return [all.filter(isSo), all.filter((entry) => !isSo(entry))]
}
