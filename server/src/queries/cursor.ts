import { asNumber } from '@bluestem/core/known'
import { invalid } from '../problems/problem.ts'
import type { ListRow } from '../items/row.ts'

/** A cursor holds the sort keys of the last row and its id. */
export function writeCursor(row: ListRow): string {
  const keys: unknown[] = []
  for (let index = 0; `k${index}` in row; index += 1) keys.push(row[`k${index}`])
  return Buffer.from(JSON.stringify([...keys, row.id])).toString('base64url')
}

export function readCursor(cursor: string): (string | number | null)[] {
  try {
    const keys: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8'))
    if (
      Array.isArray(keys) &&
      Number.isInteger(keys.at(-1)) &&
      Math.abs(asNumber(keys.at(-1))) < 2 ** 31 &&
      keys.every(
        (key) =>
          key === null ||
          typeof key === 'string' ||
          typeof key === 'number' ||
          typeof key === 'boolean',
      )
    )
      return keys.map((key) =>
        // Every key was looked at just above.
        typeof key === 'boolean' ? String(key) : (key as string | number | null),
      )
  } catch {
    // answered below, like every other cursor that cannot be read
  }
  throw invalid([
    {
      pointer: '/cursor',
      message: 'This cursor was not given by Bluestem; leave it out to begin anew.',
      expected: 'the “next” of an earlier answer',
    },
  ])
}
