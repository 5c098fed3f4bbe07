import type { FactValue } from '../queries/tree/facts.ts'
import { sameHeld } from '../queries/values/compare.ts'
import { Decimal } from '../queries/values/decimal.ts'

const isNumber = (value: FactValue): value is string =>
  typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value)

/** Whether two values are the same: numbers whatever their zeros, several values in any order. */
export const sameValue = (a: FactValue, b: FactValue): boolean =>
  a === b || (isNumber(a) && isNumber(b) ? new Decimal(a).equals(b) : sameHeld(a, b))
