import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { editDistance, nearest } from './nearest.ts'
import vectors from './vectors/alignment.json' with { type: 'json' }

describe('the distance of two spellings (vectors/alignment.json, sources there)', () => {
  it.each(vectors.map((vector) => [vector.name, vector] as const))(
    '%s',
    (_, { input, expected }) => {
      expect(editDistance(input.a, input.b)).toBe(expected)
    },
  )

  it('is nothing for the same text, the same both ways, and at most the longer text', () => {
    const word = fc.string({ maxLength: 12 })
    fc.assert(
      fc.property(word, word, (a, b) => {
        const distance = editDistance(a, b)
        expect(distance).toBe(editDistance(b, a))
        expect(distance === 0).toBe(a === b)
        expect(distance).toBeLessThanOrEqual(Math.max(a.length, b.length))
        expect(distance).toBeGreaterThanOrEqual(Math.abs(a.length - b.length))
      }),
    )
  })
})

describe('what was probably meant', () => {
  const words = [
    'status',
    'start',
    'today',
    'days_ago',
    'In hand',
    'Signed off',
    'Awaiting surveyor',
  ]
  it.each([
    ['stauts', 'status'],
    ['todya', 'today'],
    ['days_agoo', 'days_ago'],
    ['in hnad', 'In hand'],
    ['signed of', 'Signed off'],
    ['Awaiting surveyer', 'Awaiting surveyor'],
    ['elephant', undefined],
    ['x', undefined],
  ])('by “%s” is %s', (written, meant) => {
    expect(nearest(written, words)).toBe(meant)
  })

  it('is nothing where there is nothing', () => {
    expect(nearest('status', [])).toBeUndefined()
  })
})
