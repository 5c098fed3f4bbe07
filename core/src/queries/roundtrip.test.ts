import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ownFilter } from '../../test/filters.ts'
import { vocabulary } from '../../test/vocabulary.ts'
import { check } from './check.ts'
import { uncheck } from './uncheck.ts'
import { fromJson } from './json.ts'
import { toJson } from './toJson.ts'
import { parse } from './parser.ts'
import { print } from './print.ts'
import type { Filter } from './tree/tree.ts'

const read = (text: string): Filter => {
  const parsed = parse(text)
  if (!parsed.ok) throw new Error(`${text}: ${parsed.errors[0]!.message}`)
  return parsed.value
}

describe('a query in all its forms', () => {
  const source = {
    vocabulary,
    today: '2026-11-25',
    refs: ['YARD/1'],
    texts: ['Ramp hinge weeps', "skipper's log"],
  }

  it('means the same as text, as JSON, and kept with identities', () => {
    fc.assert(
      fc.property(ownFilter(source), (text) => {
        const tree = read(text)
        const json = toJson(tree)
        const printed = print(tree)
        if (printed.ok) expect(toJson(read(printed.text)), printed.text).toEqual(json)
        const back = fromJson(json)
        expect(back.ok && toJson(back.value)).toEqual(json)
        const checked = check(tree, vocabulary)
        if (!checked.ok) throw new Error(`${text}: ${checked.errors[0]!.message}`)
        const kept = fromJson(toJson(uncheck(checked.value, vocabulary, 'identity')))
        const again = kept.ok ? check(kept.value, vocabulary, 'identity') : kept
        expect(again.ok && toJson(uncheck(again.value, vocabulary, 'name'))).toEqual(
          toJson(uncheck(checked.value, vocabulary, 'name')),
        )
      }),
      { numRuns: 1500, seed: 11 },
    )
  })

  it('never breaks on any text: it is read or refused with a place inside it', () => {
    const pieces = fc.constantFrom(
      'status',
      "'Open'",
      '=',
      '(',
      ')',
      'AND',
      'OR',
      'NOT',
      ',',
      '5',
      '1.5e3',
      "'",
      '"',
      'IN',
      'IS',
      'NULL',
      'LIKE',
      'BETWEEN',
      'DATE(',
      'T_AFTER(',
      '^',
      '-',
      '\\',
      '🚢',
      ' ',
      'INTERVAL(',
      "'..'",
      'CASEI(',
      '<>',
      '!=',
      ';',
    )
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(pieces, { maxLength: 14 }).map((parts) => parts.join(' ')),
          fc.string({ maxLength: 40 }),
          fc.string({ unit: 'binary', maxLength: 20 }),
        ),
        (text) => {
          const parsed = parse(text)
          if (parsed.ok) return
          const [error] = parsed.errors
          expect(error!.from).toBeGreaterThanOrEqual(0)
          expect(error!.to).toBeLessThanOrEqual(text.length)
          expect(error!.from).toBeLessThanOrEqual(error!.to)
          expect(error!.message.length).toBeGreaterThan(8)
        },
      ),
      { numRuns: 3000, seed: 5 },
    )
  })
})
