import { elementAt } from '../known/index.ts'
import { isNumber, isText } from './comparable.ts'
import { describe } from './typeWords.ts'
import type { CheckedCall, Value, Domain, Type } from './tree/checked.ts'
import { functionEntry, functionNames } from './functions/functions.ts'
import { literalEndsBefore } from './literal.ts'
import { nearest } from './nearest.ts'
import type { Call, Scalar } from './tree/tree.ts'
import { ArgumentChecker } from './checkArguments.ts'

/** Gives every value of a query its type, and a bare text the meaning of what it stands beside. */
export class ValueChecker extends ArgumentChecker {
  protected value(scalar: Scalar): Value {
    const { at } = scalar
    switch (scalar.kind) {
      case 'property':
        return this.property(scalar.name, at)
      case 'text':
        return { kind: 'literal', type: isText, value: scalar.value, at }
      case 'number':
        return { kind: 'literal', type: isNumber, value: scalar.value, at }
      case 'boolean':
        return { kind: 'literal', type: { kind: 'boolean' }, value: scalar.value, at }
      case 'date':
      case 'timestamp':
        return { kind: 'literal', type: { kind: scalar.kind }, value: scalar.value, at }
      case 'interval':
        return this.interval(scalar)
      case 'array':
        return this.wrong(at, 'A list stands only beside IN or in an array operator.', {
          expected: 'A_OVERLAPS(…)',
        })
      case 'arithmetic':
        return {
          kind: 'arithmetic',
          op: scalar.op,
          left: this.numeric(scalar.left),
          right: this.numeric(scalar.right),
          type: isNumber,
          at,
        }
      case 'fold':
        return {
          kind: 'fold',
          fold: scalar.fold,
          value: this.text(scalar.value),
          type: isText,
          at,
        }
      case 'call':
        return this.call(scalar)
      case 'condition':
        return this.wrong(at, 'No function here takes a condition.', { expected: 'a value' })
    }
  }

  protected interval(scalar: Extract<Scalar, { kind: 'interval' }>): Value {
    if (scalar.start && scalar.end && literalEndsBefore(scalar.start, scalar.end))
      return this.wrong(scalar.at, 'This interval ends before it starts.', {
        expected: 'the earlier end first',
      })
    const end = (entry: Scalar | null): Value | null => {
      if (!entry) return null
      const { value, failed } = this.tries(() => this.value(entry))
      if (!failed && value.type.kind !== 'date' && value.type.kind !== 'timestamp')
        this.wrong(
          entry.at,
          `An end of an interval is a day or a moment; this is ${describe(value.type)}.`,
          { expected: 'a day or a moment' },
        )
      return value
    }
    return {
      kind: 'interval',
      start: end(scalar.start),
      end: end(scalar.end),
      type: { kind: 'interval' },
      at: scalar.at,
    }
  }

  protected call(call: Call): Value {
    const name = functionNames.find((text) => text === call.name.toLowerCase())
    if (!name) {
      const near = nearest(call.name, functionNames)
      return this.wrong(
        call.nameAt,
        `There is no function “${call.name}”.${near ? ` Did you mean ${near}?` : ''}`,
        { found: call.name, expected: 'a function', ...(near ? { nearest: near } : {}) },
      )
    }
    const entry = functionEntry(name)
    const form = entry.forms.find((form) => form.length === call.args.length)
    if (!form)
      return this.wrong(
        call.at,
        `${name} is called as ${entry.forms.map((form) => `${name}(${form.map((parameter) => parameter.name).join(', ')})`).join(' or ')}.`,
        {
          expected: entry.forms.map((form) => form.length).join(' or ') + ' arguments',
          found: String(call.args.length),
        },
      )
    const args: Value[] = []
    for (const [index, parameter] of form.entries())
      args.push(this.argument(name, parameter, elementAt(call.args, index), args))
    return { kind: 'call', name, args, type: entry.result, at: call.at } satisfies CheckedCall
  }

  protected numeric(scalar: Scalar): Value {
    const { value, failed } = this.tries(() => this.value(scalar))
    if (!failed && value.type.kind !== 'number')
      this.wrong(scalar.at, `A number is expected here; this is ${describe(value.type)}.`, {
        expected: 'a number',
        found: describe(value.type),
      })
    return value
  }

  protected text(scalar: Scalar): Value {
    const { value, failed } = this.tries(() => this.value(scalar))
    if (!failed && value.type.kind !== 'text') {
      const choice = value.type.kind === 'choice'
      this.wrong(
        scalar.at,
        `Text is expected here; this is ${describe(value.type)}${choice ? ', which is compared with = or IN' : ''}.`,
        { expected: choice ? '= or IN' : 'text', found: describe(value.type) },
      )
    }
    return value
  }

  /** A pattern is written out, so that it is folded once and not in every row. */
  protected pattern(scalar: Scalar): Value {
    if (scalar.kind === 'text') return this.value(scalar)
    if (scalar.kind === 'fold')
      return {
        kind: 'fold',
        fold: scalar.fold,
        value: this.pattern(scalar.value),
        type: isText,
        at: scalar.at,
      }
    return this.wrong(
      scalar.at,
      'LIKE takes a pattern that is written out: % stands for any run of characters, _ for one.',
      { expected: 'text, or casei or accenti of text' },
    )
  }

  protected valueLike(scalar: Scalar, type: Type | undefined): Value {
    if (!type) return this.value(scalar)
    // Beside a single value a list is left as it is, so that the operator can say what it takes.
    if (scalar.kind === 'array' && type.kind === 'choice')
      return {
        kind: 'list',
        items: scalar.items.map((item) => this.member(item, type.domain)),
        type: { kind: 'array', domain: type.domain },
        at: scalar.at,
      }
    if (scalar.kind === 'text' && type.kind === 'choice')
      return this.choice(scalar.value, type.domain, scalar.at)
    if (scalar.kind === 'text' && type.kind === 'array')
      return this.wrong(
        scalar.at,
        'An array is compared with an array: put the value in brackets, and use A_CONTAINS or A_OVERLAPS.',
        { expected: `('${scalar.value}')` },
      )
    if (scalar.kind === 'array' && type.kind === 'array')
      return {
        kind: 'list',
        items: scalar.items.map((item) => this.member(item, type.domain)),
        type,
        at: scalar.at,
      }
    return this.value(scalar)
  }

  protected member(item: Scalar, domain: Domain): Value {
    if (item.kind === 'text') return this.choice(item.value, domain, item.at)
    const { value, failed } = this.tries(() => this.value(item))
    if (!failed && !(value.type.kind === 'choice' && value.type.domain === domain))
      this.wrong(
        item.at,
        `This list holds ${describe({ kind: 'array', domain })}; ${describe(value.type)} does not fit.`,
        { expected: describe({ kind: 'choice', domain }) },
      )
    return value
  }

  /** Two values of which one may be a bare text that takes its meaning from the other. */
  protected pair(left: Scalar, right: Scalar): readonly [Value, Value] {
    const leaning = (scalar: Scalar): boolean => scalar.kind === 'text' || scalar.kind === 'array'
    if (leaning(left) && !leaning(right)) {
      const known = this.tries(() => this.value(right))
      return known.failed
        ? [known.value, known.value]
        : [this.valueLike(left, known.value.type), known.value]
    }
    const known = this.tries(() => this.value(left))
    return known.failed
      ? [known.value, known.value]
      : [known.value, this.valueLike(right, known.value.type)]
  }
}
