import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arrange, finishedBefore, notShown } from './board.ts'

describe('a board', () => {
  it('counts every answer exactly once: in a column, elsewhere or finished too long ago', () => {
    const standing = fc
      .record({
        value: fc.constantFrom('a', 'b', 'c', 'd', null),
        count: fc.integer({ min: 1, max: 20 }),
        late: fc.nat(20),
      })
      .map(({ value, count, late }) => ({ value, count, late: Math.min(count, late) }))
    fc.assert(
      fc.property(
        fc.uniqueArray(standing, { selector: (entry) => entry.value }),
        fc.uniqueArray(fc.constantFrom('a', 'b', null)),
        (standings, columns) => {
          const board = arrange({ columns }, standings)
          const elsewhere = board.elsewhere.reduce((sum, entry) => sum + entry.count, 0)
          expect(board.shown + elsewhere + board.finishedLongAgo).toBe(board.total)
          expect(board.columns.map((column) => column.value)).toEqual(columns)
        },
      ),
    )
  })

  it.each([
    [[], 0, 'nothing is left out'],
    [
      [{ value: 'a', count: 4 }],
      2,
      '6 are not: 4 stand elsewhere, 2 were finished over 30 days ago',
    ],
    [[{ value: 'a', count: 1 }], 0, '1 is not: 1 stands elsewhere'],
  ])('says what is not shown and why', (elsewhere, late, words) => {
    expect(notShown({ elsewhere, finishedLongAgo: late }, 30).words).toBe(words)
  })

  it('lets finished items go at the beginning of a day', () => {
    expect(finishedBefore({ finishedWithin: 7 }, '2026-03-31', 'Europe/Zurich')).toBe(
      Date.parse('2026-03-23T23:00:00Z'),
    )
    expect(finishedBefore({ finishedWithin: null }, '2026-03-31', 'UTC')).toBeNull()
  })
})
