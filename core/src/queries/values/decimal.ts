import { Decimal as Library } from 'decimal.js'
import type { ArithmeticOp } from '../tree/tree.ts'

/** Decimals of 40 digits, so that 0.1 + 0.2 is 0.3. */
export const Decimal = Library.clone({
  precision: 40,
  rounding: Library.ROUND_HALF_UP,
  toExpNeg: -1000,
  toExpPos: 1000,
  modulo: Library.ROUND_DOWN,
})
export type Decimal = Library

/** The number that a value is known to be. @throws Error where it is none */
export function asDecimal(value: unknown): Decimal {
  if (value instanceof Decimal) return value
  throw new Error('This value is no number.')
}

/** The number that a value is known to be, or null where it is empty. */
export const asDecimalOrNull = (value: unknown): Decimal | null =>
  value === null ? null : asDecimal(value)

/**
 * One arithmetic operation. `div` truncates toward zero, `%` has the sign of the dividend, `0 ^ 0` is 1.
 *
 * @returns null where there is no real value: division by zero, a root of a negative number, zero to a negative power
 */
export function calculate(op: ArithmeticOp, a: Decimal, b: Decimal): Decimal | null {
  switch (op) {
    case '+':
      return a.plus(b)
    case '-':
      return a.minus(b)
    case '*':
      return a.times(b)
    case '/':
      return b.isZero() ? null : a.dividedBy(b)
    case '%':
      return b.isZero() ? null : a.modulo(b)
    case 'div':
      return b.isZero() ? null : a.dividedToIntegerBy(b)
    case '^':
      return power(a, b)
  }
}

/** Powers beyond 10^1000 or below 10^-1000 have no use in a figure; they are unknown rather than a run-away number. */
const largestMagnitude = 1000

function power(a: Decimal, b: Decimal): Decimal | null {
  if (a.isZero()) return b.isNegative() && !b.isZero() ? null : a.pow(b)
  if (a.isNegative() && !b.isInteger()) return null
  if (a.abs().log().times(b).abs().greaterThan(largestMagnitude)) return null
  return a.pow(b)
}
