import type { Request } from 'express'
import { invalid, Problem } from '../problems/problem.ts'

/** The longest key by which a request is known again. */
export const longestKey = 200
/** The key by which a creation that is sent twice is made once. @throws Problem 400 when it is too long to keep */
export function keyOf(request: Request): string | undefined {
  const key = request.get('idempotency-key')
  if (key !== undefined && (key === '' || key.length > longestKey))
    throw invalid([
      {
        pointer: '/Idempotency-Key',
        message: `An Idempotency-Key has 1 to ${longestKey} characters.`,
        expected: 'a key made anew for each thing',
        found: `${key.length} characters`,
      },
    ])
  return key
}

/** What tells that a preference was followed (RFC 7240). */
export const minimalAnswer = { 'Preference-Applied': 'return=minimal' }

/** Whether the program that asks has no use for what became of its change (RFC 7240). */
export const prefersMinimal = (request: Request): boolean =>
  /(?:^|[,;])\s*return\s*=\s*"?minimal"?\s*(?:[,;]|$)/i.test(request.get('prefer') ?? '')

/** The version a change is meant for. @throws Problem 428 without one */
export function matchOf(request: Request): string {
  const match = request.get('if-match')
  if (!match)
    throw new Problem(
      428,
      'Say which version',
      'A change needs the header If-Match with the ETag that was read, so that nobody’s work is overwritten unseen.',
    )
  return match
}
