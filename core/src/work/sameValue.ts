import type { FactValue } from '../queries/facts.ts'
import { sameHeld } from '../queries/compare.ts'
import { Decimal } from '../queries/decimal.ts'

const isNumber = (value: FactValue): value is string =>
  typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value)

/** Whether two values are the same: numbers whatever their zeros, several values in any order. */
export const sameValue = (a: FactValue, b: FactValue): boolean =>
  a === b || (isNumber(a) && isNumber(b) ? new Decimal(a).equals(b) : sameHeld(a, b))
