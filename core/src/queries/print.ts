import { entryOf, isRecord } from '../known/index.ts'
import { quoteName } from './name.ts'
import type { Filter, Scalar } from './tree/tree.ts'

/** Text that the standard's grammar cannot hold: `\'` is read as a quote, so these have no spelling. */
const unspeakable = /\\$|\\'/

/**
 * Writes a filter as CQL2 text. `parse(print(f))` gives the same tree but for positions.
 *
 * @returns the text, or why there is none: a value that ends in a backslash, or has one before a quote
 */
export function print(
  filter: Filter,
): { readonly ok: true; readonly text: string } | { readonly ok: false; readonly message: string } {
  const bad = textsOf(filter).find((text) => unspeakable.test(text))
  if (bad !== undefined)
    return {
      ok: false,
      message: `The value ${JSON.stringify(bad)} has a backslash where the text form would read it as part of a quote. It is kept and exchanged as JSON.`,
    }
  return { ok: true, text: printFilter(filter) }
}

function printFilter(filter: Filter): string {
  switch (filter.kind) {
    case 'and':
      return filter.args
        .map((arg) =>
          arg.kind === 'or' || arg.kind === 'and' ? `(${printFilter(arg)})` : printFilter(arg),
        )
        .join(' AND ')
    case 'or':
      return filter.args
        .map((arg) => (arg.kind === 'or' ? `(${printFilter(arg)})` : printFilter(arg)))
        .join(' OR ')
    case 'not':
      return printNot(filter.arg)
    case 'truth':
      return filter.value ? 'TRUE' : 'FALSE'
    case 'compare':
      return `${printScalar(filter.left)} ${filter.op} ${printScalar(filter.right)}`
    case 'like':
    case 'between':
    case 'in':
    case 'isNull':
      return printInfix(filter, '')
    case 'array':
      return `${filter.op.toUpperCase()}(${printArray(filter.left)}, ${printArray(filter.right)})`
    case 'temporal':
      return `${filter.op.toUpperCase()}(${printScalar(filter.left)}, ${printScalar(filter.right)})`
    case 'call':
      return printScalar(filter)
  }
}

type Infix = Extract<Filter, { kind: 'like' | 'between' | 'in' | 'isNull' }>

function printInfix(filter: Infix, not: string): string {
  const value = printScalar(filter.value)
  switch (filter.kind) {
    case 'like':
      return `${value} ${not}LIKE ${printScalar(filter.pattern)}`
    case 'between':
      return `${value} ${not}BETWEEN ${printScalar(filter.low)} AND ${printScalar(filter.high)}`
    case 'in':
      return `${value} ${not}IN (${filter.list.map(printScalar).join(', ')})`
    case 'isNull':
      return `${value} IS ${not}NULL`
  }
}

function printNot(arg: Filter): string {
  if (arg.kind === 'like' || arg.kind === 'between' || arg.kind === 'in' || arg.kind === 'isNull')
    return printInfix(arg, 'NOT ')
  if (arg.kind === 'and' || arg.kind === 'or' || arg.kind === 'not')
    return `NOT (${printFilter(arg)})`
  return `NOT ${printFilter(arg)}`
}

/** Operators that must be bracketed inside a tighter one: the index is how tightly each binds. */
const tightness: Record<string, number> = { '+': 1, '-': 1, '*': 2, '/': 2, '%': 2, div: 2, '^': 3 }

function printScalar(scalar: Scalar): string {
  switch (scalar.kind) {
    case 'property':
      return quoteName(scalar.name)
    case 'text':
      return quoteText(scalar.value)
    case 'number':
      return scalar.value
    case 'boolean':
      return scalar.value ? 'TRUE' : 'FALSE'
    case 'date':
      return `DATE('${scalar.value}')`
    case 'timestamp':
      return `TIMESTAMP('${scalar.value}')`
    case 'interval':
      return `INTERVAL(${[scalar.start, scalar.end].map((end) => (end === null ? "'..'" : end.kind === 'date' || end.kind === 'timestamp' ? `'${end.value}'` : printScalar(end))).join(', ')})`
    case 'array':
      return printArray(scalar)
    case 'arithmetic':
      return printArithmetic(scalar)
    case 'fold':
      return `${scalar.fold.toUpperCase()}(${printScalar(scalar.value)})`
    case 'call':
      return `${scalar.name}(${scalar.args.map(printScalar).join(', ')})`
    case 'condition':
      return printFilter(scalar.filter)
  }
}

function printArithmetic(scalar: Extract<Scalar, { kind: 'arithmetic' }>): string {
  const own = entryOf(tightness, scalar.op)
  const side = (part: Scalar, bound: number): string => {
    const text = printScalar(part)
    return part.kind === 'arithmetic' && entryOf(tightness, part.op) < bound ? `(${text})` : text
  }
  const bound = scalar.op === '^' ? 4 : own
  return `${side(scalar.left, bound)} ${scalar.op} ${side(scalar.right, own + 1)}`
}

const printArray = (scalar: Scalar): string =>
  scalar.kind === 'array' ? `(${scalar.items.map(printScalar).join(', ')})` : printScalar(scalar)

/** A CQL2 character literal. */
export const quoteText = (text: string): string => `'${text.replaceAll("'", "''")}'`

function textsOf(node: unknown): string[] {
  if (Array.isArray(node)) return node.flatMap(textsOf)
  if (!isRecord(node)) return []
  const { kind, value } = node
  if (kind === 'text' && typeof value === 'string') return [value]
  return Object.values(node).flatMap(textsOf)
}
