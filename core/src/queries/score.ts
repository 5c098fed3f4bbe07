import { check } from './check.ts'
import { type Value, valuesOf } from './tree/checked.ts'
import { parse } from './parser.ts'
import type { Outcome } from './tree/tree.ts'
import type { QueryNames } from './tree/vocabulary.ts'

/**
 * Reads the formula of a score: CQL2 arithmetic over numbers that items hold. It may not name another score, so there is no
 * order of computing and no circle.
 *
 * @returns the checked arithmetic, or every error with its place in the text
 */
export function readScore(formula: string, vocabulary: QueryNames): Outcome<Value> {
  // The grammar has arithmetic only inside comparisons; the number it is compared with is thrown away.
  const parsed = parse(`${formula} = 0`)
  if (!parsed.ok) return parsed
  const end = formula.trimEnd().length
  if (parsed.value.kind !== 'compare' || parsed.value.right.at.from <= end - 1)
    return {
      ok: false,
      errors: [
        {
          from: 0,
          to: end,
          message: 'A score is arithmetic, not a condition.',
          expected: 'numbers and handles joined by + - * / and brackets',
          found: formula.slice(0, 60),
        },
      ],
    }
  const checked = check(parsed.value, vocabulary)
  if (!checked.ok) return checked
  if (checked.value.kind !== 'compare')
    throw new Error('A score is read as one side of a comparison.')
  const { left } = checked.value
  const odd = valuesOf(checked.value).find(
    (value) =>
      (value.kind === 'property' &&
        (value.ofParent ||
          value.type.kind !== 'number' ||
          value.property.computed?.kind === 'score')) ||
      value.kind === 'call',
  )
  if (odd)
    return {
      ok: false,
      errors: [
        {
          from: odd.at.from,
          to: odd.at.to,
          message:
            'A score is computed from numbers that its own item holds, and not from other scores.',
          expected: 'the handle of a number',
          found: formula.slice(odd.at.from, odd.at.to),
        },
      ],
    }
  if (left.type.kind !== 'number')
    return {
      ok: false,
      errors: [
        {
          from: 0,
          to: end,
          message: 'A score is a number.',
          expected: 'numbers and handles joined by + - * / and brackets',
          found: formula.slice(0, 60),
        },
      ],
    }
  return { ok: true, value: left }
}

/** The handles of the numbers a formula reads. */
export const partsOf = (value: Value): string[] => [
  ...new Set(
    valuesOf({ kind: 'isNull', value, at: value.at }).flatMap((value) =>
      value.kind === 'property' ? [value.property.handle] : [],
    ),
  ),
]
