import { invalid } from '../problems/problem.ts'

/** A span in days, from a query parameter. */
export function daysOf(query: Readonly<Record<string, string>>, standard: number): number {
  const days = Number(query['days'] ?? standard)
  if (!Number.isInteger(days) || days < 1 || days > 3660)
    throw invalid([
      {
        pointer: '/days',
        message: 'A span is a whole number of days.',
        expected: '1 to 3660',
        found: query['days'] ?? '',
      },
    ])
  return days
}
