import type { Figure } from './schema.ts'
import { mean, percentile } from './percentile.ts'

/**
 * The statistic of durations that a figure asks for; the median where it names none.
 *
 * @param ascending durations in days, ascending
 * @returns days; null of no durations
 */
export function statisticOf(
  ascending: readonly number[],
  { stat = 'median', p = 85 }: Figure,
): number | null {
  switch (stat) {
    case 'mean':
      return mean(ascending)
    case 'median':
      return percentile(ascending, 50)
    case 'percentile':
      return percentile(ascending, p)
    case 'least':
      return ascending[0] ?? null
    case 'greatest':
      return ascending.at(-1) ?? null
  }
}
