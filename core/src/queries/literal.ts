import { Refusal, type Token } from './lexer.ts'
import type { Scalar } from './tree/tree.ts'

/** The largest exponent a number literal may carry: past it no figure of work makes sense and arithmetic would run away. */
const largestExponent = 400

/** The text of a number literal, its exponent within bounds. @throws Refusal past them */
export function plainNumber(token: Token): string {
  const exponent = /[eE]([+-]?\d+)$/.exec(token.raw)
  if (exponent && Math.abs(Number(exponent[1])) > largestExponent) {
    throw new Refusal({
      from: token.from,
      to: token.to,
      message: `The exponent of a number may be at most ${largestExponent}.`,
      found: token.raw,
    })
  }
  return token.raw
}

/** Whether two literal ends of an interval stand the wrong way round. */
export function literalEndsBefore(start: Scalar, end: Scalar): boolean {
  if (start.kind === 'date' && end.kind === 'date') return end.value < start.value
  if (start.kind === 'timestamp' && end.kind === 'timestamp')
    return Date.parse(end.value) < Date.parse(start.value)
  return false
}
