import { MissingError, isOneOf, isRecord } from '../known/index.ts'
import { isDay, isInstantText } from '../calendar/day.ts'
import {
  arithmeticOps,
  arrayOps,
  type At,
  bounds,
  compareOps,
  type Filter,
  type Outcome,
  type QueryError,
  type Scalar,
  temporalOps,
} from './tree/tree.ts'

/**
 * Reads CQL2 JSON into a filter.
 *
 * @returns the tree, or every place that is not CQL2 JSON, each with its JSON pointer (`at` is 0 to 0: there is no text)
 */
export function fromJson(json: unknown): Outcome<Filter> {
  const reader = new Reader()
  const value = reader.filter(json, '', 0)
  return reader.errors.length === 0 && value
    ? { ok: true, value }
    : { ok: false, errors: reader.errors.slice(0, bounds.errors) }
}

/** A place in JSON has no characters to count; its pointer tells where it is. */
const placeOf = (pointer: string): At => ({ from: 0, to: 0, pointer })
const missing: Scalar = { kind: 'boolean', value: false, at: placeOf('') }

const isDecimalText = (value: unknown): value is string =>
  typeof value === 'string' && /^-?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d{1,3})?$/.test(value)

/** How many arguments a predicate over values takes; undefined for everything else. */
function argumentCount(op: string): number | undefined {
  if (op === 'isNull') return 1
  if (op === 'between') return 3
  const takesTwo =
    op === 'like' ||
    op === 'in' ||
    isOneOf(compareOps, op) ||
    isOneOf(arrayOps, op) ||
    isOneOf(temporalOps, op)
  return takesTwo ? 2 : undefined
}

/** A predicate whose arguments are counted. */
function predicate(op: string, at: At, scalar: (index: number) => Scalar): Filter {
  if (op === 'isNull') return { kind: 'isNull', value: scalar(0), at }
  if (op === 'like') return { kind: 'like', value: scalar(0), pattern: scalar(1), at }
  if (op === 'between')
    return { kind: 'between', value: scalar(0), low: scalar(1), high: scalar(2), at }
  const sides = { left: scalar(0), right: scalar(1), at }
  if (isOneOf(compareOps, op)) return { kind: 'compare', op, ...sides }
  if (isOneOf(arrayOps, op)) return { kind: 'array', op, ...sides }
  if (isOneOf(temporalOps, op)) return { kind: 'temporal', op, ...sides }
  throw new MissingError(`There is no predicate “${op}”.`)
}

class Reader {
  readonly errors: QueryError[] = []

  /** Past the first errors nothing more is told, so nothing more is read. */
  get full(): boolean {
    return this.errors.length >= bounds.errors
  }

  #wrong(pointer: string, message: string, expected?: string): undefined {
    this.errors.push({ ...placeOf(pointer), message, ...(expected ? { expected } : {}) })
    return undefined
  }

  filter(json: unknown, pointer: string, depth: number): Filter | undefined {
    const at = placeOf(pointer)
    if (depth > bounds.depth)
      return this.#wrong(pointer, `This query is nested deeper than ${bounds.depth} levels.`)
    if (typeof json === 'boolean') return { kind: 'truth', value: json, at }
    const call = this.#operation(json, pointer)
    if (!call) return undefined
    const { op, args } = call
    const scalar = (index: number): Scalar =>
      this.scalar(args[index], `${pointer}/args/${index}`, depth + 1)
    const counted = (count: number): boolean =>
      args.length === count ||
      this.#wrong(
        `${pointer}/args`,
        `“${op}” takes ${count} arguments; ${args.length} are given.`,
      ) !== undefined
    if (op === 'and' || op === 'or') return this.#joined(op, args, pointer, depth)
    if (op === 'not') {
      const arg = counted(1) ? this.filter(args[0], `${pointer}/args/0`, depth + 1) : undefined
      return arg && { kind: 'not', arg, at }
    }
    const expected = argumentCount(op)
    if (expected !== undefined) {
      if (!counted(expected)) return undefined
      if (op === 'in') return this.#in(args, pointer, depth)
      return predicate(op, at, scalar)
    }
    if (isOneOf(arithmeticOps, op) || op === 'casei' || op === 'accenti')
      return this.#wrong(pointer, `“${op}” gives a value, not a condition.`, 'a condition')
    return this.#call(op, args, pointer, depth)
  }

  #joined(
    kind: 'and' | 'or',
    args: readonly unknown[],
    pointer: string,
    depth: number,
  ): Filter | undefined {
    if (args.length < 2)
      return this.#wrong(`${pointer}/args`, `“${kind}” takes at least two arguments.`)
    const parts = args.flatMap((arg, index) =>
      this.full ? [] : (this.filter(arg, `${pointer}/args/${index}`, depth + 1) ?? []),
    )
    return { kind, args: parts, at: placeOf(pointer) }
  }

  #in(args: readonly unknown[], pointer: string, depth: number): Filter | undefined {
    const list = args[1]
    if (!Array.isArray(list) || list.length === 0)
      return this.#wrong(
        `${pointer}/args/1`,
        '“in” takes a list with at least one value.',
        'an array',
      )
    const at = placeOf(pointer)
    if (list.length > bounds.list)
      return this.#wrong(`${pointer}/args/1`, `A list may hold at most ${bounds.list} values.`)
    return {
      kind: 'in',
      value: this.scalar(args[0], `${pointer}/args/0`, depth + 1),
      list: list.map((entry, index) => this.scalar(entry, `${pointer}/args/1/${index}`, depth + 1)),
      at,
    }
  }

  scalar(json: unknown, pointer: string, depth: number): Scalar {
    const at = placeOf(pointer)
    if (depth > bounds.depth)
      return (
        this.#wrong(pointer, `This query is nested deeper than ${bounds.depth} levels.`) ?? missing
      )
    if (typeof json === 'string') return { kind: 'text', value: json, at }
    if (typeof json === 'boolean') return { kind: 'boolean', value: json, at }
    if (typeof json === 'number') return { kind: 'number', value: String(json), at }
    if (Array.isArray(json)) {
      if (json.length > bounds.list)
        return this.#wrong(pointer, `A list may hold at most ${bounds.list} values.`) ?? missing
      return {
        kind: 'array',
        items: json.map((entry, index) => this.scalar(entry, `${pointer}/${index}`, depth + 1)),
        at,
      }
    }
    if (!isRecord(json))
      return (
        this.#wrong(pointer, 'Nothing equals null; for emptiness use isNull.', 'a value') ?? missing
      )
    return this.#object(json, pointer, depth)
  }

  #moment(kind: 'date' | 'timestamp', value: unknown, pointer: string): Scalar {
    const at = placeOf(pointer)
    const isValid = kind === 'date' ? isDay : isInstantText
    if (typeof value === 'string' && isValid(value)) return { kind, value, at }
    const [message, expected] =
      kind === 'date'
        ? ['This is no day of the calendar.', '2026-03-01']
        : ['This is no moment in UTC.', '2026-03-01T08:00:00Z']
    return this.#wrong(`${pointer}/${kind}`, message, expected) ?? missing
  }

  #object(json: Readonly<Record<string, unknown>>, pointer: string, depth: number): Scalar {
    const at = placeOf(pointer)
    if (typeof json['property'] === 'string')
      return { kind: 'property', name: json['property'], at }
    if ('date' in json) return this.#moment('date', json['date'], pointer)
    if ('timestamp' in json) return this.#moment('timestamp', json['timestamp'], pointer)
    if ('interval' in json) return this.#interval(json['interval'], pointer, depth)
    const call = this.#operation(json, pointer)
    if (!call) return missing
    const { op, args } = call
    if (op === 'decimal' && isDecimalText(args[0])) return { kind: 'number', value: args[0], at }
    if (isOneOf(arithmeticOps, op)) {
      if (args.length !== 2)
        return (
          this.#wrong(`${pointer}/args`, `“${op}” takes 2 arguments; ${args.length} are given.`) ??
          missing
        )
      return {
        kind: 'arithmetic',
        op,
        left: this.scalar(args[0], `${pointer}/args/0`, depth + 1),
        right: this.scalar(args[1], `${pointer}/args/1`, depth + 1),
        at,
      }
    }
    if (op === 'casei' || op === 'accenti')
      return {
        kind: 'fold',
        fold: op,
        value: this.scalar(args[0], `${pointer}/args/0`, depth + 1),
        at,
      }
    if (isPredicate(op)) {
      const filter = this.filter(json, pointer, depth + 1)
      return filter ? { kind: 'condition', filter, at } : missing
    }
    return this.#call(op, args, pointer, depth)
  }

  #interval(json: unknown, pointer: string, depth: number): Scalar {
    if (!Array.isArray(json) || json.length !== 2)
      return (
        this.#wrong(`${pointer}/interval`, 'An interval has two ends.', 'an array of two') ??
        missing
      )
    const at = placeOf(pointer)
    const end = (index: 0 | 1): Scalar | null => {
      const entry: unknown = json[index]
      if (entry === '..') return null
      if (typeof entry === 'string' && isDay(entry)) return { kind: 'date', value: entry, at }
      if (typeof entry === 'string' && isInstantText(entry))
        return { kind: 'timestamp', value: entry, at }
      if (typeof entry === 'string')
        return (
          this.#wrong(
            `${pointer}/interval/${index}`,
            `'${entry}' is neither a day, a moment nor '..'.`,
          ) ?? missing
        )
      return this.scalar(entry, `${pointer}/interval/${index}`, depth + 1)
    }
    return { kind: 'interval', start: end(0), end: end(1), at }
  }

  #call(
    op: string,
    args: readonly unknown[],
    pointer: string,
    depth: number,
  ): Extract<Filter & Scalar, { kind: 'call' }> {
    const at = placeOf(pointer)
    return {
      kind: 'call',
      name: op,
      args: args.map((arg, index) => this.scalar(arg, `${pointer}/args/${index}`, depth + 1)),
      at,
      nameAt: at,
    }
  }

  #operation(json: unknown, pointer: string): { op: string; args: readonly unknown[] } | undefined {
    if (!isRecord(json))
      return this.#wrong(pointer, 'Here a condition is expected.', '{"op": …, "args": […]}')
    const { op, args } = json
    if (typeof op !== 'string' || !Array.isArray(args))
      return this.#wrong(
        pointer,
        'A condition has “op”, a text, and “args”, a list.',
        '{"op": …, "args": […]}',
      )
    return { op, args }
  }
}

const isPredicate = (op: string): boolean =>
  [
    'and',
    'or',
    'not',
    'like',
    'between',
    'in',
    'isNull',
    ...compareOps,
    ...arrayOps,
    ...temporalOps,
  ].includes(op)
