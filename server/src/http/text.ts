import type { NextFunction, Request, Response } from 'express'
import { cleanText } from '@bluestem/core/work'
import { invalid, type ProblemDetail } from '../problems/problem.ts'

/** No request means anything deeper than this; every later walk may go down as deep as it needs. */
const deepest = 100

/** The first text in a value that no database can keep, as a name or as a value, or where it is too deep, with its JSON pointer. */
export function unkeepable(value: unknown, pointer = '', depth = 0): ProblemDetail | undefined {
  if (typeof value === 'string') {
    const clean = cleanText(value)
    return clean.ok ? undefined : { pointer, message: clean.message, expected: 'text without it' }
  }
  if (typeof value !== 'object' || value === null) return undefined
  if (depth >= deepest)
    return {
      pointer: pointer.slice(0, 200),
      message: `This is nested deeper than ${deepest} levels.`,
      expected: `at most ${deepest} levels`,
    }
  for (const [key, entry] of Object.entries(value)) {
    const wrong =
      unkeepable(key, pointer, depth + 1) ??
      unkeepable(entry, `${pointer}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`, depth + 1)
    if (wrong) return wrong
  }
  return undefined
}

/** What is wrong with an address: bytes that are no text, or a character that nothing can keep. */
function unreadable(address: string): ProblemDetail | undefined {
  try {
    return decodeURIComponent(address.replaceAll('+', ' ')).includes('\u0000')
      ? {
          message: 'The address holds the character U+0000; take it out.',
          expected: 'an address without %00',
        }
      : undefined
  } catch {
    return {
      message: 'The address holds bytes that are no text in UTF-8.',
      expected: 'an address encoded as RFC 3986 has it',
    }
  }
}

/** Lets no request in that holds text which cannot be kept: deeper down it would be a defect. */
export function keepable(request: Request, _: Response, next: NextFunction): void {
  const wrong = unkeepable(request.body) ?? unreadable(request.originalUrl)
  if (wrong) throw invalid([wrong])
  next()
}
