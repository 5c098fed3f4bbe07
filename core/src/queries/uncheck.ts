import type { Condition, Literal, Value } from './checked.ts'
import { spell, type Vocabulary } from '../vocabulary/vocabulary.ts'
import type { Spelling } from './check.ts'
import type { Call, Filter, Scalar } from './tree.ts'

/** Turns a checked condition back into a filter whose choices are spelled as asked. */
export function uncheck(condition: Condition, vocabulary: Vocabulary, spelling: Spelling): Filter {
  const scalar = (value: Value): Scalar => {
    const { at } = value
    switch (value.kind) {
      case 'literal':
        return literalScalar(value, vocabulary, spelling)
      case 'property':
        return {
          kind: 'property',
          name: value.ofParent ? `parent.${value.property.handle}` : value.property.handle,
          at,
        }
      case 'interval':
        return {
          kind: 'interval',
          start: value.start && scalar(value.start),
          end: value.end && scalar(value.end),
          at,
        }
      case 'list':
        return { kind: 'array', items: value.items.map(scalar), at }
      case 'arithmetic':
        return {
          kind: 'arithmetic',
          op: value.op,
          left: scalar(value.left),
          right: scalar(value.right),
          at,
        }
      case 'fold':
        return { kind: 'fold', fold: value.fold, value: scalar(value.value), at }
      case 'call':
        return { kind: 'call', name: value.name, args: value.args.map(scalar), at, nameAt: at }
    }
  }
  const filter = (one: Condition): Filter => {
    const { at } = one
    switch (one.kind) {
      case 'and':
      case 'or':
        return { kind: one.kind, args: one.args.map(filter), at }
      case 'not':
        return { kind: 'not', arg: filter(one.arg), at }
      case 'truth':
        return one
      case 'compare':
        return { kind: 'compare', op: one.op, left: scalar(one.left), right: scalar(one.right), at }
      case 'like':
        return { kind: 'like', value: scalar(one.value), pattern: scalar(one.pattern), at }
      case 'between':
        return {
          kind: 'between',
          value: scalar(one.value),
          low: scalar(one.low),
          high: scalar(one.high),
          at,
        }
      case 'in':
        return { kind: 'in', value: scalar(one.value), list: one.list.map(scalar), at }
      case 'isNull':
        return { kind: 'isNull', value: scalar(one.value), at }
      case 'array':
        return { kind: 'array', op: one.op, left: scalar(one.left), right: scalar(one.right), at }
      case 'temporal':
        return {
          kind: 'temporal',
          op: one.op,
          left: scalar(one.left),
          right: scalar(one.right),
          at,
        }
      case 'call':
        return scalar(one) as Call
    }
  }
  return filter(condition)
}

function literalScalar(literal: Literal, vocabulary: Vocabulary, spelling: Spelling): Scalar {
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
