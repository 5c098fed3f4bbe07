import type { FactValue } from '../tree/facts.ts'
import type { Result } from './result.ts'
import { asDecimal, Decimal } from './decimal.ts'
import type { ArrayOp, CompareOp } from '../tree/tree.ts'

/** What a list holds; undoing compares rows, whose lists are of numbers. */
const elementsOf = (held: FactValue): readonly unknown[] => (Array.isArray(held) ? held : [])

/** Whether two values are the same; lists are the same with the same members. */
export function sameHeld(a: FactValue, b: FactValue): boolean {
  const sorted = (held: FactValue): string => JSON.stringify([...elementsOf(held)].sort())
  return Array.isArray(a) || Array.isArray(b) ? sorted(a) === sorted(b) : a === b
}

export function order(a: NonNullable<Result>, b: NonNullable<Result>): number {
  if (a instanceof Decimal) return a.comparedTo(asDecimal(b))
  if (typeof a === 'string' && typeof b === 'string') return compareText(a, b)
  return a === b ? 0 : a < b ? -1 : 1
}

/** By code point, as `COLLATE "C"` does: UTF-16 order differs beyond the basic plane. */
export function compareText(a: string, b: string): number {
  if (a === b) return 0
  let at = 0
  while (at < a.length && at < b.length && a[at] === b[at]) at += 1
  const before = a.charCodeAt(at - 1)
  if (before >= 0xd800 && before <= 0xdbff) at -= 1
  return (a.codePointAt(at) ?? -1) < (b.codePointAt(at) ?? -1) ? -1 : 1
}

export function holds(op: CompareOp, sign: number): boolean {
  switch (op) {
    case '=':
      return sign === 0
    case '<>':
      return sign !== 0
    case '<':
      return sign < 0
    case '>':
      return sign > 0
    case '<=':
      return sign <= 0
    case '>=':
      return sign >= 0
  }
}

/** Array operators compare sets; a member that is unknown (an empty `me()`) is contained nowhere. */
export function arrays(
  op: ArrayOp,
  left: readonly (string | null)[],
  right: readonly (string | null)[],
): boolean {
  const contains = (all: readonly (string | null)[], some: readonly (string | null)[]): boolean =>
    some.every((entry) => entry !== null && all.includes(entry))
  switch (op) {
    case 'a_contains':
      return contains(left, right)
    case 'a_containedBy':
      return contains(right, left)
    case 'a_equals':
      return contains(left, right) && contains(right, left)
    case 'a_overlaps':
      return left.some((entry) => entry !== null && right.includes(entry))
  }
}
