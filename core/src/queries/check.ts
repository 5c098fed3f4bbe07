import { comparable, ordered } from './comparable.ts'
import { capital, describe } from './typeWords.ts'
import { changesWith, type Condition, type Value, type ChangesWith } from './tree/checked.ts'
import { functionEntry } from './functions/functions.ts'
import { type Call, type Filter, instantOps, type Outcome } from './tree/tree.ts'
import type { QueryNames } from './tree/vocabulary.ts'
import { EnoughErrors, type Spelling } from './checkNames.ts'
import { ValueChecker } from './checkValues.ts'

/**
 * Gives every name of a filter its meaning and judges every comparison.
 *
 * @returns the checked condition, or every error with its place, what was found, what was expected and the nearest valid spelling
 */
export function check(
  filter: Filter,
  vocabulary: QueryNames,
  spelling: Spelling = 'name',
): Outcome<Condition> {
  const checker = new Checker(vocabulary, spelling)
  try {
    const value = checker.condition(filter)
    return checker.errors.length === 0 ? { ok: true, value } : { ok: false, errors: checker.errors }
  } catch (error) {
    if (error instanceof EnoughErrors) return { ok: false, errors: checker.errors }
    throw error
  }
}

/** With what the answers of a checked condition can change. */
export const changingWith = (condition: Condition): ReadonlySet<ChangesWith> =>
  changesWith(condition, (call) => functionEntry(call.name).changesWith)

/** Judges whether the values of each comparison may be compared. */
class Checker extends ValueChecker {
  condition(filter: Filter): Condition {
    const { at } = filter
    switch (filter.kind) {
      case 'and':
      case 'or':
        return { kind: filter.kind, args: filter.args.map((arg) => this.condition(arg)), at }
      case 'not':
        return { kind: 'not', arg: this.condition(filter.arg), at }
      case 'truth':
        return filter
      case 'compare':
        return this.compare(filter)
      case 'like':
        return {
          kind: 'like',
          value: this.text(filter.value),
          pattern: this.pattern(filter.pattern),
          at,
        }
      case 'between':
        return {
          kind: 'between',
          value: this.numeric(filter.value),
          low: this.numeric(filter.low),
          high: this.numeric(filter.high),
          at,
        }
      case 'in':
        return this.in(filter)
      case 'isNull':
        return { kind: 'isNull', value: this.value(filter.value), at }
      case 'array':
        return this.array(filter)
      case 'temporal':
        return this.temporal(filter)
      case 'call':
        return this.booleanCall(filter)
    }
  }

  protected booleanCall(call: Call): Condition {
    const { value, failed } = this.tries(() => this.value(call))
    if (!failed && value.type.kind !== 'boolean')
      this.wrong(
        call.at,
        `${call.name}() gives ${describe(value.type)}, which alone is no condition; compare it with something.`,
        { expected: 'a comparison' },
      )
    return value.kind === 'call' ? value : { kind: 'truth', value: false, at: call.at }
  }

  protected compare(filter: Extract<Filter, { kind: 'compare' }>): Condition {
    const { op, at } = filter
    const {
      value: [left, right],
      failed,
    } = this.tries(() => this.pair(filter.left, filter.right))
    const checked: Condition = { kind: 'compare', op, left, right, at }
    if (failed) return checked
    if (left.type.kind === 'array' || right.type.kind === 'array') {
      const array = left.type.kind === 'array' ? left : right
      this.wrong(
        array.at,
        'This holds several values; compare it with A_CONTAINS, A_OVERLAPS, A_CONTAINEDBY or A_EQUALS.',
        { expected: `A_OVERLAPS(${nameOf(array)}, (…))` },
      )
    } else if (left.type.kind === 'interval' || right.type.kind === 'interval') {
      this.wrong(at, 'An interval is compared with the T_ operators: T_INTERSECTS(due, week(0)).', {
        expected: 'T_INTERSECTS(…)',
      })
    } else if (!comparable(left.type, right.type)) {
      this.wrong(
        right.at,
        `${capital(describe(left.type))} cannot be compared with ${describe(right.type)}.`,
        { expected: describe(left.type), found: describe(right.type) },
      )
    } else if (op !== '=' && op !== '<>' && !ordered(left.type)) {
      const priority = left.type.kind === 'choice' && left.type.domain === 'priority'
      this.wrong(
        at,
        priority
          ? 'Priorities have no order of their own; compare rung (its place on the ladder) or urgency (1 to 5, the same for everybody).'
          : `${capital(describe(left.type))} has no order; use =, <> or IN.`,
        { expected: priority ? 'rung or urgency' : '=, <> or IN' },
      )
    }
    return checked
  }

  protected in(filter: Extract<Filter, { kind: 'in' }>): Condition {
    const { value, failed } = this.tries(() => this.leftOfIn(filter))
    const list = filter.list.map((scalar) => {
      const item = this.tries(() => this.valueLike(scalar, failed ? undefined : value.type))
      if (!failed && !item.failed && !comparable(value.type, item.value.type))
        this.wrong(
          scalar.at,
          `${capital(describe(value.type))} cannot be compared with ${describe(item.value.type)}.`,
          { expected: describe(value.type), found: describe(item.value.type) },
        )
      return item.value
    })
    if (!failed && (value.type.kind === 'array' || value.type.kind === 'interval'))
      this.wrong(value.at, 'This holds several values; use A_OVERLAPS.', {
        expected: 'A_OVERLAPS(…)',
      })
    return { kind: 'in', value, list, at: filter.at }
  }

  /** A bare text before IN takes its meaning from the first member that has one: 'Ana Brandt' IN (assignee, raised_by). */
  protected leftOfIn(filter: Extract<Filter, { kind: 'in' }>): Value {
    const typed =
      filter.value.kind === 'text'
        ? filter.list.find((scalar) => scalar.kind !== 'text')
        : undefined
    return typed ? this.valueLike(filter.value, this.value(typed).type) : this.value(filter.value)
  }

  protected array(filter: Extract<Filter, { kind: 'array' }>): Condition {
    const {
      value: [left, right],
      failed,
    } = this.tries(() => this.pair(filter.left, filter.right))
    if (!failed) {
      for (const side of [left, right]) {
        if (side.type.kind !== 'array')
          this.wrong(
            side.at,
            `${filter.op.toUpperCase()} compares arrays; this is ${describe(side.type)}.`,
            {
              expected: side.type.kind === 'choice' ? '= or IN' : 'an array',
              found: describe(side.type),
            },
          )
      }
      if (
        left.type.kind === 'array' &&
        right.type.kind === 'array' &&
        left.type.domain !== right.type.domain
      )
        this.wrong(
          right.at,
          `${capital(describe(left.type))} cannot be compared with ${describe(right.type)}.`,
          { expected: describe(left.type), found: describe(right.type) },
        )
    }
    return { kind: 'array', op: filter.op, left, right, at: filter.at }
  }

  protected temporal(filter: Extract<Filter, { kind: 'temporal' }>): Condition {
    const { op, at } = filter
    const { value: sides, failed } = this.tries(
      () => [this.value(filter.left), this.value(filter.right)] as const,
    )
    if (!failed) {
      for (const side of sides) {
        const { kind } = side.type
        if (kind !== 'date' && kind !== 'timestamp' && kind !== 'interval')
          this.wrong(
            side.at,
            `The T_ operators compare days, moments and intervals; this is ${describe(side.type)}.`,
            { expected: 'a day, a moment or an interval', found: describe(side.type) },
          )
        else if (kind !== 'interval' && !instantOps.includes(op))
          this.wrong(
            side.at,
            `${op.toUpperCase()} compares intervals, and this is one ${kind === 'date' ? 'day' : 'moment'}; write T_INTERSECTS.`,
            { expected: 'an interval', nearest: 'T_INTERSECTS' },
          )
      }
    }
    return { kind: 'temporal', op, left: sides[0], right: sides[1], at }
  }
}

const nameOf = (value: Value): string => (value.kind === 'property' ? value.property.handle : '…')
