import { patternText } from './pattern.ts'
import { type Condition, endsInEscape, functionEntry, type Value } from '@bluestem/core/queries'

/** Whether a value can be empty for an item; the columns that are NOT NULL never are. */
export function valueMayBeEmpty(value: Value): boolean {
  switch (value.kind) {
    case 'literal':
      return false
    case 'property':
      return value.property.nullable
    case 'interval':
      return [value.start, value.end].some((end) => end !== null && valueMayBeEmpty(end))
    case 'list':
      return false
    case 'arithmetic':
      return (
        ['/', '%', 'div', '^'].includes(value.op) ||
        valueMayBeEmpty(value.left) ||
        valueMayBeEmpty(value.right)
      )
    case 'fold':
      return valueMayBeEmpty(value.value)
    case 'call':
      return (
        functionEntry(value.name).nullable ||
        value.args.some((arg) => arg.kind === 'interval' && valueMayBeEmpty(arg))
      )
  }
}

/** Whether a leaf can be unknown; AND, OR and NOT are no leaves. */
export function mayBeUnknown(condition: Condition): boolean {
  switch (condition.kind) {
    case 'and':
    case 'or':
    case 'not':
    case 'truth':
    case 'isNull':
    case 'array':
      return false
    case 'compare':
    case 'temporal':
      return valueMayBeEmpty(condition.left) || valueMayBeEmpty(condition.right)
    case 'like':
      return valueMayBeEmpty(condition.value) || endsInEscape(patternText(condition.pattern))
    case 'between':
      return [condition.value, condition.low, condition.high].some(valueMayBeEmpty)
    case 'in':
      return [condition.value, ...condition.list].some(valueMayBeEmpty)
    case 'call':
      return valueMayBeEmpty(condition)
  }
}
