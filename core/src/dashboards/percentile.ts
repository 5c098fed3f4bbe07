import { elementAt } from '../known/index.ts'

/**
 * The p-th percentile by linear interpolation between ranks: type 7 of Hyndman & Fan (1996),
 * h = (n − 1)·p/100, between the values of rank ⌊h⌋ and ⌈h⌉.
 *
 * @param ascending values in ascending order
 * @param p from 0 to 100
 * @returns null when there are no values
 */
export function percentile(ascending: readonly number[], p: number): number | null {
  if (ascending.length === 0) return null
  const h = ((ascending.length - 1) * p) / 100
  const [low, high] = [elementAt(ascending, Math.floor(h)), elementAt(ascending, Math.ceil(h))]
  return low + (h - Math.floor(h)) * (high - low)
}

/** The mean, summed with compensation (Neumaier 1974) so that large offsets lose no digits; null when there are no values. */
export function mean(values: readonly number[]): number | null {
  if (values.length === 0) return null
  let sum = 0
  let lost = 0
  for (const value of values) {
    const next = sum + value
    lost += Math.abs(sum) >= Math.abs(value) ? sum - next + value : value - next + sum
    sum = next
  }
  return (sum + lost) / values.length
}
