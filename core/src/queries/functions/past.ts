import type { Instant } from '../../calendar/day.ts'
import { asText, elementAt } from '../../known/index.ts'
import type { CheckedCall } from '../tree/checked.ts'
import { order, sameHeld } from '../values/compare.ts'
import { Decimal } from '../values/decimal.ts'
import type { Result } from '../values/result.ts'
import type { ItemState } from '../tree/facts.ts'
import { asInterval, instants } from '../values/interval.ts'
import { type Caller, literalIn, propertyIn } from './entry.ts'

const dayInMilliseconds = 86_400_000
const always = { start: -Infinity, end: Infinity }

/** The instants of an interval, its end not included; null where one of its ends is not known. */
const intervalOf = (value: Result, zone: string): typeof always | null =>
  value === null ? null : instants(asInterval(value), zone)

/** Days of 24 hours for which an item had a value. */
export function daysIn({ states, moment, value }: Caller, call: CheckedCall): Decimal | null {
  const property = propertyIn(call)
  const within = call.args[2] ? intervalOf(value(call.args[2]), moment.zone) : always
  if (!within) return null
  const target = value(elementAt(call.args, 1))
  let milliseconds = 0
  for (const [index, state] of states.entries()) {
    const held = state.facts[property.property.handle] ?? null
    const same = Array.isArray(held)
      ? held.includes(target)
      : held !== null &&
        target !== null &&
        order(property.type.kind === 'number' ? new Decimal(asText(held)) : held, target) === 0
    const until = Math.min(states[index + 1]?.from ?? moment.now, within.end)
    if (same) milliseconds += Math.max(0, until - Math.max(state.from, within.start))
  }
  return new Decimal(milliseconds).dividedBy(dayInMilliseconds)
}

/** How many times a property of an item was changed. */
export function changesOf({ states, moment, value }: Caller, call: CheckedCall): Decimal | null {
  const property = propertyIn(call)
  const within = call.args[1] ? intervalOf(value(call.args[1]), moment.zone) : always
  if (!within) return null
  const person = call.args[2] ? literalIn(call, 2) : undefined
  const { handle } = property.property
  const changes = states.filter((state, index) => {
    if (index === 0 || state.byEdition || state.from < within.start || state.from >= within.end)
      return false
    if (person !== undefined && state.by !== person) return false
    return !sameHeld(
      state.facts[handle] ?? null,
      elementAt(states, index - 1).facts[handle] ?? null,
    )
  })
  return new Decimal(changes.length)
}

const isInPhase = (state: ItemState | undefined, phase: string): boolean =>
  state?.facts['phase'] === phase

/** When an item first entered a phase. */
export const firstInto = ({ states }: Caller, call: CheckedCall): Instant | null =>
  states.find((state) => isInPhase(state, literalIn(call, 0)))?.from ?? null

/** When an item last entered a phase. */
export function lastInto({ states }: Caller, call: CheckedCall): Instant | null {
  const phase = literalIn(call, 0)
  const entered = states.findLast(
    (state, index) => isInPhase(state, phase) && !isInPhase(states[index - 1], phase),
  )
  return entered?.from ?? null
}
