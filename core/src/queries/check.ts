import { comparable, isNumber, isText, ordered } from './comparable.ts'
import { capital, describe, domainWords } from './typeWords.ts'
import {
  changesWith,
  type CheckedCall,
  type Condition,
  type Literal,
  type Value,
} from './checked.ts'
import { functionEntry, type FunctionName, functionNames, type Parameter } from './functions.ts'
import { literalEndsBefore } from './literal.ts'
import { nearest } from './nearest.ts'
import {
  type At,
  bounds,
  type Call,
  type Filter,
  instantOps,
  type Outcome,
  type QueryError,
  type Scalar,
} from './tree.ts'
import type { ChangesWith, Choice, Domain, Type, Vocabulary } from '../vocabulary/vocabulary.ts'

/** How choice literals are written: `name` as people write them, `identity` as saved queries keep them. */
export type Spelling = 'name' | 'identity'

/**
 * Gives every name of a filter its meaning and judges every comparison.
 *
 * @returns the checked condition, or every error with its place, what was found, what was expected and the nearest valid spelling
 */
export function check(
  filter: Filter,
  vocabulary: Vocabulary,
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

/** Thrown inside the checker only, when as many errors were found as are told. */
class EnoughErrors extends Error {}

class Checker {
  readonly errors: QueryError[] = []
  readonly #vocabulary: Vocabulary
  readonly #spelling: Spelling

  constructor(vocabulary: Vocabulary, spelling: Spelling) {
    this.#vocabulary = vocabulary
    this.#spelling = spelling
  }

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
        return this.#compare(filter)
      case 'like':
        return {
          kind: 'like',
          value: this.#text(filter.value),
          pattern: this.#pattern(filter.pattern),
          at,
        }
      case 'between':
        return {
          kind: 'between',
          value: this.#numeric(filter.value),
          low: this.#numeric(filter.low),
          high: this.#numeric(filter.high),
          at,
        }
      case 'in':
        return this.#in(filter)
      case 'isNull':
        return { kind: 'isNull', value: this.#value(filter.value), at }
      case 'array':
        return this.#array(filter)
      case 'temporal':
        return this.#temporal(filter)
      case 'call':
        return this.#booleanCall(filter)
    }
  }

  #wrong(at: At, message: string, more: Omit<QueryError, 'from' | 'to' | 'message'> = {}): Value {
    this.errors.push({
      from: at.from,
      to: at.to,
      ...(at.pointer === undefined ? {} : { pointer: at.pointer }),
      message,
      ...more,
    })
    if (this.errors.length >= bounds.errors) throw new EnoughErrors()
    return { kind: 'literal', type: { kind: 'boolean' }, value: false, at }
  }

  /** What stands in an error's place is never compared, so that one mistake is told once. */
  #tries<T>(part: () => T): { value: T; failed: boolean } {
    const before = this.errors.length
    const value = part()
    return { value, failed: this.errors.length > before }
  }

  #booleanCall(call: Call): Condition {
    const { value, failed } = this.#tries(() => this.#value(call))
    if (!failed && value.type.kind !== 'boolean')
      this.#wrong(
        call.at,
        `${call.name}() gives ${describe(value.type)}, which alone is no condition; compare it with something.`,
        { expected: 'a comparison' },
      )
    return value.kind === 'call' ? value : { kind: 'truth', value: false, at: call.at }
  }

  #compare(filter: Extract<Filter, { kind: 'compare' }>): Condition {
    const { op, at } = filter
    const {
      value: [left, right],
      failed,
    } = this.#tries(() => this.#pair(filter.left, filter.right))
    const checked: Condition = { kind: 'compare', op, left, right, at }
    if (failed) return checked
    if (left.type.kind === 'array' || right.type.kind === 'array') {
      const array = left.type.kind === 'array' ? left : right
      this.#wrong(
        array.at,
        'This holds several values; compare it with A_CONTAINS, A_OVERLAPS, A_CONTAINEDBY or A_EQUALS.',
        { expected: `A_OVERLAPS(${nameOf(array)}, (…))` },
      )
    } else if (left.type.kind === 'interval' || right.type.kind === 'interval') {
      this.#wrong(
        at,
        'An interval is compared with the T_ operators: T_INTERSECTS(due, week(0)).',
        { expected: 'T_INTERSECTS(…)' },
      )
    } else if (!comparable(left.type, right.type)) {
      this.#wrong(
        right.at,
        `${capital(describe(left.type))} cannot be compared with ${describe(right.type)}.`,
        { expected: describe(left.type), found: describe(right.type) },
      )
    } else if (op !== '=' && op !== '<>' && !ordered(left.type)) {
      const priority = left.type.kind === 'choice' && left.type.domain === 'priority'
      this.#wrong(
        at,
        priority
          ? 'Priorities have no order of their own; compare rung (its place on the ladder) or urgency (1 to 5, the same for everybody).'
          : `${capital(describe(left.type))} has no order; use =, <> or IN.`,
        { expected: priority ? 'rung or urgency' : '=, <> or IN' },
      )
    }
    return checked
  }

  #in(filter: Extract<Filter, { kind: 'in' }>): Condition {
    const { value, failed } = this.#tries(() => this.#leftOfIn(filter))
    const list = filter.list.map((one) => {
      const item = this.#tries(() => this.#valueLike(one, failed ? undefined : value.type))
      if (!failed && !item.failed && !comparable(value.type, item.value.type))
        this.#wrong(
          one.at,
          `${capital(describe(value.type))} cannot be compared with ${describe(item.value.type)}.`,
          { expected: describe(value.type), found: describe(item.value.type) },
        )
      return item.value
    })
    if (!failed && (value.type.kind === 'array' || value.type.kind === 'interval'))
      this.#wrong(value.at, 'This holds several values; use A_OVERLAPS.', {
        expected: 'A_OVERLAPS(…)',
      })
    return { kind: 'in', value, list, at: filter.at }
  }

  /** A bare text before IN takes its meaning from the first member that has one: 'Ana Brandt' IN (assignee, raised_by). */
  #leftOfIn(filter: Extract<Filter, { kind: 'in' }>): Value {
    const typed =
      filter.value.kind === 'text' ? filter.list.find((one) => one.kind !== 'text') : undefined
    return typed
      ? this.#valueLike(filter.value, this.#value(typed).type)
      : this.#value(filter.value)
  }

  #array(filter: Extract<Filter, { kind: 'array' }>): Condition {
    const {
      value: [left, right],
      failed,
    } = this.#tries(() => this.#pair(filter.left, filter.right))
    if (!failed) {
      for (const side of [left, right]) {
        if (side.type.kind !== 'array')
          this.#wrong(
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
        this.#wrong(
          right.at,
          `${capital(describe(left.type))} cannot be compared with ${describe(right.type)}.`,
          { expected: describe(left.type), found: describe(right.type) },
        )
    }
    return { kind: 'array', op: filter.op, left, right, at: filter.at }
  }

  #temporal(filter: Extract<Filter, { kind: 'temporal' }>): Condition {
    const { op, at } = filter
    const { value: sides, failed } = this.#tries(
      () => [this.#value(filter.left), this.#value(filter.right)] as const,
    )
    if (!failed) {
      for (const side of sides) {
        const { kind } = side.type
        if (kind !== 'date' && kind !== 'timestamp' && kind !== 'interval')
          this.#wrong(
            side.at,
            `The T_ operators compare days, moments and intervals; this is ${describe(side.type)}.`,
            { expected: 'a day, a moment or an interval', found: describe(side.type) },
          )
        else if (kind !== 'interval' && !instantOps.includes(op))
          this.#wrong(
            side.at,
            `${op.toUpperCase()} compares intervals, and this is one ${kind === 'date' ? 'day' : 'moment'}; write T_INTERSECTS.`,
            { expected: 'an interval', nearest: 'T_INTERSECTS' },
          )
      }
    }
    return { kind: 'temporal', op, left: sides[0], right: sides[1], at }
  }

  /** Two values of which one may be a bare text that takes its meaning from the other. */
  #pair(left: Scalar, right: Scalar): readonly [Value, Value] {
    const leaning = (scalar: Scalar): boolean => scalar.kind === 'text' || scalar.kind === 'array'
    if (leaning(left) && !leaning(right)) {
      const known = this.#tries(() => this.#value(right))
      return known.failed
        ? [known.value, known.value]
        : [this.#valueLike(left, known.value.type), known.value]
    }
    const known = this.#tries(() => this.#value(left))
    return known.failed
      ? [known.value, known.value]
      : [known.value, this.#valueLike(right, known.value.type)]
  }

  #valueLike(scalar: Scalar, type: Type | undefined): Value {
    if (!type) return this.#value(scalar)
    // Beside a single value a list is left as it is, so that the operator can say what it takes.
    if (scalar.kind === 'array' && type.kind === 'choice')
      return {
        kind: 'list',
        items: scalar.items.map((item) => this.#member(item, type.domain)),
        type: { kind: 'array', domain: type.domain },
        at: scalar.at,
      }
    if (scalar.kind === 'text' && type.kind === 'choice')
      return this.#choice(scalar.value, type.domain, scalar.at)
    if (scalar.kind === 'text' && type.kind === 'array')
      return this.#wrong(
        scalar.at,
        'An array is compared with an array: put the value in brackets, and use A_CONTAINS or A_OVERLAPS.',
        { expected: `('${scalar.value}')` },
      )
    if (scalar.kind === 'array' && type.kind === 'array')
      return {
        kind: 'list',
        items: scalar.items.map((item) => this.#member(item, type.domain)),
        type,
        at: scalar.at,
      }
    return this.#value(scalar)
  }

  #member(item: Scalar, domain: Domain): Value {
    if (item.kind === 'text') return this.#choice(item.value, domain, item.at)
    const { value, failed } = this.#tries(() => this.#value(item))
    if (!failed && !(value.type.kind === 'choice' && value.type.domain === domain))
      this.#wrong(
        item.at,
        `This list holds ${describe({ kind: 'array', domain })}; ${describe(value.type)} does not fit.`,
        { expected: describe({ kind: 'choice', domain }) },
      )
    return value
  }

  #numeric(scalar: Scalar): Value {
    const { value, failed } = this.#tries(() => this.#value(scalar))
    if (!failed && value.type.kind !== 'number')
      this.#wrong(scalar.at, `A number is expected here; this is ${describe(value.type)}.`, {
        expected: 'a number',
        found: describe(value.type),
      })
    return value
  }

  #text(scalar: Scalar): Value {
    const { value, failed } = this.#tries(() => this.#value(scalar))
    if (!failed && value.type.kind !== 'text') {
      const choice = value.type.kind === 'choice'
      this.#wrong(
        scalar.at,
        `Text is expected here; this is ${describe(value.type)}${choice ? ', which is compared with = or IN' : ''}.`,
        { expected: choice ? '= or IN' : 'text', found: describe(value.type) },
      )
    }
    return value
  }

  /** A pattern is written out, so that it is folded once and not in every row. */
  #pattern(scalar: Scalar): Value {
    if (scalar.kind === 'text') return this.#value(scalar)
    if (scalar.kind === 'fold')
      return {
        kind: 'fold',
        fold: scalar.fold,
        value: this.#pattern(scalar.value),
        type: isText,
        at: scalar.at,
      }
    return this.#wrong(
      scalar.at,
      'LIKE takes a pattern that is written out: % stands for any run of characters, _ for one.',
      { expected: 'text, or casei or accenti of text' },
    )
  }

  #value(scalar: Scalar): Value {
    const { at } = scalar
    switch (scalar.kind) {
      case 'property':
        return this.#property(scalar.name, at)
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
        return this.#interval(scalar)
      case 'array':
        return this.#wrong(at, 'A list stands only beside IN or in an array operator.', {
          expected: 'A_OVERLAPS(…)',
        })
      case 'arithmetic':
        return {
          kind: 'arithmetic',
          op: scalar.op,
          left: this.#numeric(scalar.left),
          right: this.#numeric(scalar.right),
          type: isNumber,
          at,
        }
      case 'fold':
        return {
          kind: 'fold',
          fold: scalar.fold,
          value: this.#text(scalar.value),
          type: isText,
          at,
        }
      case 'call':
        return this.#call(scalar)
      case 'condition':
        return this.#wrong(at, 'No function here takes a condition.', { expected: 'a value' })
    }
  }

  #interval(scalar: Extract<Scalar, { kind: 'interval' }>): Value {
    if (scalar.start && scalar.end && literalEndsBefore(scalar.start, scalar.end))
      return this.#wrong(scalar.at, 'This interval ends before it starts.', {
        expected: 'the earlier end first',
      })
    const end = (one: Scalar | null): Value | null => {
      if (!one) return null
      const { value, failed } = this.#tries(() => this.#value(one))
      if (!failed && value.type.kind !== 'date' && value.type.kind !== 'timestamp')
        this.#wrong(
          one.at,
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

  #property(name: string, at: At): Value {
    const ofParent = name.startsWith('parent.')
    const handle = ofParent ? name.slice('parent.'.length) : name
    const property = this.#vocabulary.properties.get(handle)
    if (!property) return this.#unknownName(name, handle, at)
    if (property.orderOnly)
      return this.#wrong(at, `“${name}” only orders items; it is no part of a condition.`)
    const type: Type = property.type
    return {
      kind: 'property',
      property: ofParent ? { ...property, nullable: property.type.kind !== 'array' } : property,
      ofParent,
      type,
      at,
    }
  }

  #unknownName(name: string, handle: string, at: At): Value {
    const handles = [...this.#vocabulary.properties.keys()]
    const near =
      nearest(handle, handles) ??
      handles.find(
        (one) => this.#vocabulary.properties.get(one)!.title.toLowerCase() === handle.toLowerCase(),
      )
    const spelled =
      near === undefined ? undefined : name.startsWith('parent.') ? `parent.${near}` : near
    const quoted = this.#looksLikeText(name) ? ' Text stands in single quotes.' : ''
    return this.#wrong(
      at,
      `There is no property “${name}”.${spelled ? ` Did you mean ${spelled}?` : ''}${quoted}`,
      { found: name, expected: 'a property', ...(spelled ? { nearest: spelled } : {}) },
    )
  }

  #looksLikeText(name: string): boolean {
    return (['status', 'type', 'project', 'priority', 'phase'] as const).some((domain) =>
      this.#vocabulary.choices(domain).some((one) => one.name.toLowerCase() === name.toLowerCase()),
    )
  }

  #call(call: Call): Value {
    const name = functionNames.find((one) => one === call.name.toLowerCase())
    if (!name) {
      const near = nearest(call.name, functionNames)
      return this.#wrong(
        call.nameAt,
        `There is no function “${call.name}”.${near ? ` Did you mean ${near}?` : ''}`,
        { found: call.name, expected: 'a function', ...(near ? { nearest: near } : {}) },
      )
    }
    const entry = functionEntry(name)
    const form = entry.forms.find((one) => one.length === call.args.length)
    if (!form)
      return this.#wrong(
        call.at,
        `${name} is called as ${entry.forms.map((one) => `${name}(${one.map((parameter) => parameter.name).join(', ')})`).join(' or ')}.`,
        {
          expected: entry.forms.map((one) => one.length).join(' or ') + ' arguments',
          found: String(call.args.length),
        },
      )
    const args: Value[] = []
    for (const [index, parameter] of form.entries())
      args.push(this.#argument(name, parameter, call.args[index]!, args))
    return { kind: 'call', name, args, type: entry.result, at: call.at } satisfies CheckedCall
  }

  #argument(
    name: FunctionName,
    parameter: Parameter,
    scalar: Scalar,
    before: readonly Value[],
  ): Value {
    const { at } = scalar
    switch (parameter.kind) {
      case 'whole':
        if (scalar.kind !== 'number' || !/^-?\d+$/.test(scalar.value))
          return this.#wrong(at, `${name} takes a whole number written out.`, {
            expected: 'a whole number',
          })
        if (Math.abs(Number(scalar.value)) > parameter.most)
          return this.#wrong(
            at,
            `${name} reaches a hundred years either way: ${-parameter.most} to ${parameter.most}.`,
            { expected: `${-parameter.most} to ${parameter.most}`, found: scalar.value },
          )
        return { kind: 'literal', type: isNumber, value: String(Number(scalar.value)), at }
      case 'choice':
        if (scalar.kind === 'text') return this.#choice(scalar.value, parameter.domain, at)
        return this.#wrong(
          at,
          `${name} takes the name of ${describe({ kind: 'choice', domain: parameter.domain })} in single quotes.`,
          { expected: 'a name in single quotes' },
        )
      case 'label':
        if (scalar.kind === 'text') return this.#label(scalar.value, before[0], at)
        return this.#wrong(at, `${name} takes the title of a label in single quotes.`, {
          expected: 'a title in single quotes',
        })
      case 'property': {
        const { value, failed } = this.#tries(() => this.#value(scalar))
        if (
          !failed &&
          (value.kind !== 'property' ||
            value.ofParent ||
            !value.property.changesWith.includes('own'))
        )
          return this.#wrong(at, `${name} takes a property of the item itself, without quotes.`, {
            expected: 'a property',
          })
        return value
      }
      case 'held':
        return this.#held(name, scalar, before[0])
      case 'interval': {
        const { value, failed } = this.#tries(() => this.#value(scalar))
        if (!failed && value.type.kind !== 'interval')
          return this.#wrong(
            at,
            `${name} takes an interval here, such as week(0) or INTERVAL('2026-01-01', '..').`,
            { expected: 'an interval' },
          )
        return value
      }
    }
  }

  #held(name: FunctionName, scalar: Scalar, property: Value | undefined): Value {
    const of = property?.kind === 'property' ? property.property : undefined
    if (!of) return this.#value(scalar)
    if (of.type.kind === 'array' || of.type.kind === 'choice') {
      if (scalar.kind === 'text') return this.#choice(scalar.value, of.type.domain, scalar.at)
      return this.#wrong(scalar.at, `${name} takes one value of ${of.handle} in single quotes.`, {
        expected: 'a name in single quotes',
      })
    }
    const { value, failed } = this.#tries(() => this.#value(scalar))
    if (!failed && (value.kind !== 'literal' || value.type.kind !== of.type.kind))
      return this.#wrong(
        scalar.at,
        `${name} takes one value of ${of.handle}, which is ${describe(of.type)}.`,
        { expected: describe(of.type) },
      )
    return value
  }

  #label(written: string, family: Value | undefined, at: At): Value {
    if (family?.kind !== 'literal') return this.#choice(written, 'label', at)
    const labels = this.#vocabulary.choices('label').filter((one) => one.family === family.value)
    const found = labels.find(
      (one) => (this.#spelling === 'identity' ? one.id : one.own) === written,
    )
    if (found)
      return {
        kind: 'literal',
        type: { kind: 'choice', domain: 'label' },
        value: found.id,
        own: true,
        at,
      }
    const near =
      labels.find((one) => one.own?.toLowerCase() === written.toLowerCase())?.own ??
      nearest(
        written,
        labels.map((one) => one.own ?? ''),
      )
    return this.#wrong(
      at,
      `The family has no label “${written}”.${near ? ` Did you mean '${near}'?` : ''}`,
      { found: written, ...(near ? { nearest: `'${near}'` } : {}) },
    )
  }

  #choice(written: string, domain: Domain, at: At): Value {
    const literal = (id: string): Literal => ({
      kind: 'literal',
      type: { kind: 'choice', domain },
      value: id,
      at,
    })
    if (domain === 'item') {
      if (/^[A-Z][A-Z0-9]{1,9}\/[1-9]\d{0,8}$/.test(written)) return literal(written)
      return this.#wrong(at, `“${written}” is no ref; refs look like YARD/128.`, {
        found: written,
        expected: 'a ref',
      })
    }
    if (this.#spelling === 'identity') {
      if (this.#vocabulary.choice(domain, written)) return literal(written)
      return this.#wrong(
        at,
        `This query names ${describe({ kind: 'choice', domain })} that is no longer defined.`,
        { found: written },
      )
    }
    return this.#named(written, domain, at, literal)
  }

  #named(written: string, domain: Domain, at: At, literal: (id: string) => Literal): Value {
    const all = this.#vocabulary.choices(domain)
    const same = all.filter((one) => one.name === written)
    const qualified = all.find((one) => one.qualified === written)
    if (same.length === 1) return literal(same[0]!.id)
    if (qualified) return literal(qualified.id)
    if (same.length > 1) {
      const spellings = same.map((one) => `'${one.qualified}'`).join(', ')
      return this.#wrong(
        at,
        `“${written}” names ${same.length} things; write one of ${spellings}.`,
        { found: written, expected: spellings },
      )
    }
    const near =
      all.find((one) => one.name.toLowerCase() === written.toLowerCase())?.name ??
      byTitle(all, written) ??
      nearest(
        written,
        all.map((one) => one.name),
      )
    return this.#wrong(
      at,
      `There is no ${domainWords(domain)} “${written}”.${near ? ` Did you mean '${near}'?` : all.length > 0 && all.length <= 8 ? ` There are: ${all.map((one) => one.name).join(', ')}.` : ''}`,
      {
        found: written,
        expected: `a ${domainWords(domain)}`,
        ...(near ? { nearest: `'${near.replaceAll("'", "''")}'` } : {}),
      },
    )
  }
}

const byTitle = (all: readonly Choice[], written: string): string | undefined =>
  all.find((one) => one.title.toLowerCase() === written.toLowerCase())?.name

const nameOf = (value: Value): string => (value.kind === 'property' ? value.property.handle : '…')
