import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Property } from '../queries/tree/checked.ts'
import { cellOf, guardCell, joinNames, splitNames, unguardCell } from './cell.ts'
import vectors from './vectors/csv.json' with { type: 'json' }

interface Guarded {
  readonly name: string
  readonly source: string
  readonly input: { readonly cell: string | number; readonly kind: 'text' | 'number' }
  readonly expected: { readonly safeCell?: string; readonly oneOf?: readonly string[] }
}
const guarded = (vectors as unknown as readonly Guarded[]).filter(({ input }) => 'cell' in input)
const property = (kind: 'text' | 'number' | 'boolean' | 'date'): Property =>
  ({ handle: 'x', title: 'X', type: { kind }, nullable: true, builtIn: true }) as never

describe('a cell is safe for spreadsheets', () => {
  it.each(guarded)('$name ($source)', ({ input: { cell, kind }, expected }) => {
    const safe = cellOf(property(kind), cell)
    if (expected.oneOf) expect(expected.oneOf).toContain(safe)
    else expect(safe).toBe(expected.safeCell)
  })

  it('and its text comes back as it was', () => {
    const text = fc.string({ unit: fc.constantFrom("'", '=', '+', '-', '@', '\t', '\r', 'a', ' ') })
    fc.assert(
      fc.property(text, (text) => {
        expect(unguardCell(guardCell(text))).toBe(text)
        expect(guardCell(text)).not.toMatch(/^[=+\-@\t\r]/)
      }),
    )
  })
})

describe('several names in a cell', () => {
  it('come back as they were', () => {
    const name = fc.string({ unit: fc.constantFrom('a', ';', '"', ' ', '\n', ',') })
    fc.assert(
      fc.property(fc.array(name), (names) => {
        expect(splitNames(joinNames(names))).toEqual(names)
      }),
    )
  })

  it.each([
    ['deck: car deck; wet', ['deck: car deck', 'wet']],
    [' wet ;; dry;', ['wet', 'dry']],
    ['"a;b"; c', ['a;b', 'c']],
    ['', []],
    ['5" pipe; wet', ['5" pipe', 'wet']],
  ])('%j are %j', (cell, names) => {
    expect(splitNames(cell)).toEqual(names)
  })
})

describe('a value in a cell', () => {
  it.each([
    ['text', null, ''],
    ['number', -5, '-5'],
    ['boolean', true, 'yes'],
    ['boolean', false, 'no'],
    ['date', '2026-03-01', '2026-03-01'],
  ] as const)('of kind %s: %j is %j', (kind, value, cell) => {
    expect(cellOf(property(kind), value)).toBe(cell)
  })
})
