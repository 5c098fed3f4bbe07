import {
  MissingError,
  asNumber,
  asText,
  asTextOrNull,
  certain,
  entryOf,
  lastIn,
} from '../known/index.ts'
import { functionEntry } from './functions/functions.ts'
import type { Caller } from './functions/entry.ts'
import { arrays, holds, order } from './values/compare.ts'
import { and, not, or, type Truth } from './values/truth.ts'
import type { Facts, ItemState, Moment } from './tree/facts.ts'
import { dayOf, instantOf } from '../calendar/day.ts'
import type { Condition, Value, Computed } from './tree/checked.ts'
import { asDecimal, asDecimalOrNull, calculate, Decimal } from './values/decimal.ts'
import { accenti, casei } from './values/fold.ts'
import { asInterval, related } from './values/interval.ts'
import type { End, Interval, Result } from './values/result.ts'
import { like } from './values/like.ts'
import type { CompareOp, TemporalOp } from './tree/tree.ts'
import { iterationOffset, releaseOffset } from './tree/vocabulary.ts'

/**
 * Whether an item answers a condition at a moment, computed from its own states alone.
 *
 * @param states the item's states that began at or before the moment, ascending; the last is the one asked about
 * @throws Error for a condition that reads other items (`parent.…`): only SQL can answer it
 */
export function evaluate(
  condition: Condition,
  states: readonly ItemState[],
  moment: Moment,
): Truth {
  return new Evaluation(states, moment).truth(condition)
}

/** The value of what is the same for every item: a literal, a function of the day asked about, an interval of such. */
export const constantOf = (value: Value, moment: Moment): Result =>
  new Evaluation([nothingHeld], moment).value(value)

const nothingHeld: ItemState = { from: 0, facts: {}, by: null, byEdition: false }

class Evaluation {
  readonly #states: readonly ItemState[]
  readonly #facts: Facts
  readonly #moment: Moment
  readonly #today: string

  constructor(states: readonly ItemState[], moment: Moment) {
    this.#states = states
    this.#facts = lastIn(states).facts
    this.#moment = moment
    this.#today = dayOf(moment.now, moment.zone)
  }

  truth(condition: Condition): Truth {
    switch (condition.kind) {
      case 'and':
        return and(condition.args.map((arg) => this.truth(arg)))
      case 'or':
        return or(condition.args.map((arg) => this.truth(arg)))
      case 'not':
        return not(this.truth(condition.arg))
      case 'truth':
        return condition.value
      case 'compare':
        return this.#compare(condition.op, condition.left, condition.right)
      case 'like':
        return this.#like(condition.value, condition.pattern)
      case 'between':
        return and([
          this.#compare('>=', condition.value, condition.low),
          this.#compare('<=', condition.value, condition.high),
        ])
      case 'in':
        return or(condition.list.map((entry) => this.#compare('=', condition.value, entry)))
      case 'isNull':
        return this.#isEmpty(condition.value)
      case 'array':
        return arrays(condition.op, this.#members(condition.left), this.#members(condition.right))
      case 'temporal':
        return this.#temporal(condition.op, condition.left, condition.right)
      case 'call':
        return this.#answer(condition)
    }
  }

  #members(value: Value): readonly (string | null)[] {
    const held: unknown = this.value(value)
    if (Array.isArray(held)) return held.map(asTextOrNull)
    throw new MissingError('There is no list to compare.')
  }

  #answer(call: Extract<Condition, { kind: 'call' }>): Truth {
    const answer = this.value(call)
    if (answer === null || typeof answer === 'boolean') return answer
    throw new MissingError(`${call.name}() is neither true nor false.`)
  }

  #isEmpty(value: Value): boolean {
    const held = this.value(value)
    return held === null || (Array.isArray(held) && held.length === 0)
  }

  #compare(op: CompareOp, left: Value, right: Value): Truth {
    let [a, b] = [this.value(left), this.value(right)]
    if (a === null || b === null) return null
    // A timestamp beside a date is taken as its day.
    if (left.type.kind === 'timestamp' && right.type.kind === 'date')
      a = dayOf(asNumber(a), this.#moment.zone)
    if (left.type.kind === 'date' && right.type.kind === 'timestamp')
      b = dayOf(asNumber(b), this.#moment.zone)
    return holds(op, order(a, b))
  }

  #like(value: Value, pattern: Value): Truth {
    const [text, shape] = [this.value(value), this.value(pattern)]
    return text === null || shape === null ? null : like(asText(text), asText(shape))
  }

  #temporal(op: TemporalOp, left: Value, right: Value): Truth {
    if (left.type.kind !== 'interval' && right.type.kind !== 'interval')
      return this.#instants(op, left, right)
    const [a, b] = [this.#interval(left), this.#interval(right)]
    return a && b && related(op, a, b, this.#moment.zone)
  }

  #instants(op: TemporalOp, left: Value, right: Value): Truth {
    const compare: Partial<Record<TemporalOp, CompareOp>> = {
      t_after: '>',
      t_before: '<',
      t_equals: '=',
      t_intersects: '=',
      t_disjoint: '<>',
    }
    return this.#compare(entryOf(compare, op), left, right)
  }

  #interval(value: Value): Interval | null {
    const held = this.value(value)
    if (held === null) return null
    if (value.type.kind === 'interval') return asInterval(held)
    const end: End =
      value.type.kind === 'date'
        ? { kind: 'day', day: asText(held) }
        : { kind: 'instant', instant: asNumber(held) }
    return { start: end, end }
  }

  value(value: Value): Result {
    switch (value.kind) {
      case 'literal':
        return literal(value)
      case 'property':
        return this.#property(value)
      case 'interval':
        return this.#literalInterval(value)
      case 'list':
        return value.items.map((item) => asTextOrNull(this.value(item)))
      case 'arithmetic':
        return this.#arithmetic(value)
      case 'fold':
        return this.#fold(value)
      case 'call':
        return functionEntry(value.name).value(this.#caller(), value)
    }
  }

  #property({ property, ofParent }: Extract<Value, { kind: 'property' }>): Result {
    if (ofParent)
      throw new Error(`parent.${property.handle} reads another item; only SQL answers it`)
    if (property.computed?.kind === 'score')
      return this.#isOnForm(property.handle) ? this.#score(property.computed) : null
    if (property.computed)
      throw new Error(`${property.handle} reads what is below; only SQL answers it`)
    const derived = this.#derived(property.handle)
    if (derived !== undefined) return derived === null ? null : new Decimal(derived)
    const held = this.#facts[property.handle] ?? null
    if (property.type.kind === 'array') return held ?? []
    return held !== null && property.type.kind === 'number'
      ? new Decimal(typeof held === 'number' ? held : asText(held))
      : held
  }

  #isOnForm(handle: string): boolean {
    return this.#moment.vocabulary.isOnForm(
      String(this.#facts['project']),
      String(this.#facts['type']),
      handle,
    )
  }

  /** A score's empty parts count as what the score says; without that there is no score. */
  #score({ value, empty }: Extract<Computed, { kind: 'score' }>): Result {
    const filled = (part: Value): Decimal | null => {
      if (part.kind === 'arithmetic') {
        const [left, right] = [filled(part.left), filled(part.right)]
        return left === null || right === null ? null : calculate(part.op, left, right)
      }
      const number = asDecimalOrNull(this.value(part))
      return number === null && empty !== null ? new Decimal(empty) : number
    }
    return filled(value)
  }

  #derived(handle: string): number | null | undefined {
    const { vocabulary } = this.#moment
    const text = (name: string): string | null => asTextOrNull(this.#facts[name])
    const required = (name: string): string => certain(text(name), `${name} of an item`)
    const [priority, iteration, release] = [text('priority'), text('iteration'), text('release')]
    switch (handle) {
      case 'tier':
        return vocabulary.tierOf(required('type'))
      case 'urgency':
        return priority === null ? null : vocabulary.urgencyOf(priority)
      case 'rung':
        return priority === null ? null : vocabulary.rungOf(required('project'), priority)
      case 'iteration_offset':
        return iteration === null
          ? null
          : iterationOffset(vocabulary.iterations, iteration, this.#today)
      case 'release_offset':
        return release === null
          ? null
          : releaseOffset(vocabulary.releases, release, required('project'), this.#today)
      default:
        return undefined
    }
  }

  #literalInterval(value: Extract<Value, { kind: 'interval' }>): Interval | null {
    const end = (entry: Value | null): End | null => {
      if (!entry) return { kind: 'open' }
      const held = this.value(entry)
      if (held === null) return null
      return entry.type.kind === 'date'
        ? { kind: 'day', day: asText(held) }
        : { kind: 'instant', instant: asNumber(held) }
    }
    const [start, finish] = [end(value.start), end(value.end)]
    return start && finish && { start, end: finish }
  }

  #arithmetic(value: Extract<Value, { kind: 'arithmetic' }>): Decimal | null {
    const [a, b] = [this.value(value.left), this.value(value.right)]
    return a === null || b === null ? null : calculate(value.op, asDecimal(a), asDecimal(b))
  }

  #fold(value: Extract<Value, { kind: 'fold' }>): string | null {
    const text = this.value(value.value)
    return text === null ? null : (value.fold === 'casei' ? casei : accenti)(asText(text))
  }

  #caller(): Caller {
    return {
      states: this.#states,
      facts: this.#facts,
      moment: this.#moment,
      today: this.#today,
      value: (value) => this.value(value),
      truth: (condition) => this.truth(condition),
    }
  }
}

function literal(value: Extract<Value, { kind: 'literal' }>): Result {
  if (value.type.kind === 'number') return new Decimal(asText(value.value))
  if (value.type.kind === 'timestamp') return instantOf(asText(value.value))
  return value.value
}
