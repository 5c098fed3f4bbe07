import type { CheckedCall, Condition, Literal, Value } from './tree/checked.ts'
import { spell, type QueryNames } from './tree/vocabulary.ts'
import type { Spelling } from './checkNames.ts'
import type { Call, Filter, Scalar } from './tree/tree.ts'

/** Turns a checked condition back into a filter whose choices are spelled as asked. */
export const uncheck = (condition: Condition, vocabulary: QueryNames, spelling: Spelling): Filter =>
  new Unchecker(vocabulary, spelling).filter(condition)

class Unchecker {
  readonly #vocabulary: QueryNames
  readonly #spelling: Spelling

  constructor(vocabulary: QueryNames, spelling: Spelling) {
    this.#vocabulary = vocabulary
    this.#spelling = spelling
  }

  filter(condition: Condition): Filter {
    const { at } = condition
    switch (condition.kind) {
      case 'and':
      case 'or':
        return { kind: condition.kind, args: condition.args.map((arg) => this.filter(arg)), at }
      case 'not':
        return { kind: 'not', arg: this.filter(condition.arg), at }
      case 'truth':
        return condition
      case 'compare':
        return { kind: 'compare', op: condition.op, ...this.#sides(condition), at }
      case 'like':
        return {
          kind: 'like',
          value: this.scalar(condition.value),
          pattern: this.scalar(condition.pattern),
          at,
        }
      case 'between':
        return {
          kind: 'between',
          value: this.scalar(condition.value),
          low: this.scalar(condition.low),
          high: this.scalar(condition.high),
          at,
        }
      case 'in':
        return {
          kind: 'in',
          value: this.scalar(condition.value),
          list: condition.list.map((value) => this.scalar(value)),
          at,
        }
      case 'isNull':
        return { kind: 'isNull', value: this.scalar(condition.value), at }
      case 'array':
        return { kind: 'array', op: condition.op, ...this.#sides(condition), at }
      case 'temporal':
        return { kind: 'temporal', op: condition.op, ...this.#sides(condition), at }
      case 'call':
        return this.#call(condition)
    }
  }

  #sides({ left, right }: { left: Value; right: Value }): { left: Scalar; right: Scalar } {
    return { left: this.scalar(left), right: this.scalar(right) }
  }

  scalar(value: Value): Scalar {
    const { at } = value
    switch (value.kind) {
      case 'literal':
        return literalScalar(value, this.#vocabulary, this.#spelling)
      case 'property':
        return {
          kind: 'property',
          name: value.ofParent ? `parent.${value.property.handle}` : value.property.handle,
          at,
        }
      case 'interval':
        return {
          kind: 'interval',
          start: value.start && this.scalar(value.start),
          end: value.end && this.scalar(value.end),
          at,
        }
      case 'list':
        return { kind: 'array', items: value.items.map((item) => this.scalar(item)), at }
      case 'arithmetic':
        return {
          kind: 'arithmetic',
          op: value.op,
          left: this.scalar(value.left),
          right: this.scalar(value.right),
          at,
        }
      case 'fold':
        return { kind: 'fold', fold: value.fold, value: this.scalar(value.value), at }
      case 'call':
        return this.#call(value)
    }
  }

  #call({ name, args, at }: CheckedCall): Call {
    return { kind: 'call', name, args: args.map((item) => this.scalar(item)), at, nameAt: at }
  }
}

function literalScalar(literal: Literal, vocabulary: QueryNames, spelling: Spelling): Scalar {
  const { type, value, at } = literal
  if (typeof value === 'boolean') return { kind: 'boolean', value, at }
  if (
    type.kind === 'date' ||
    type.kind === 'timestamp' ||
    type.kind === 'number' ||
    type.kind === 'text'
  )
    return { kind: type.kind, value, at }
  if (type.kind !== 'choice' || spelling === 'identity' || type.domain === 'item')
    return { kind: 'text', value, at }
  const written = literal.own
    ? vocabulary.choice(type.domain, value)?.own
    : spell(vocabulary, type.domain, value)
  return { kind: 'text', value: written ?? value, at }
}
