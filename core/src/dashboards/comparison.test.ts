import { describe, expect, it } from 'vitest'
import { differenceToBefore, differenceWords, meetsTarget, targetWords } from './comparison.ts'

describe('a figure beside its target', () => {
  it.each([
    [9, 'less', 9, true],
    [10, 'less', 9, false],
    [9, 'more', 9, true],
    [8, 'more', 9, false],
    [null, 'less', 9, undefined],
    [9, null, 9, undefined],
    [9, 'less', null, undefined],
  ] as const)('%s, where %s is better than %s, meets it: %s', (value, better, target, met) =>
    expect(meetsTarget(value, { better, target })).toBe(met),
  )

  it.each([
    ['less', 9, 'at most 9'],
    ['more', 9, 'at least 9'],
    [null, 9, 'at most 9'],
    ['less', null, ''],
  ] as const)('where %s is better than %s, reads %s', (better, target, words) =>
    expect(targetWords({ better, target }, String)).toBe(words),
  )
})

describe('a figure beside the step before', () => {
  it.each([
    [7, [3, 5, 6], 2],
    [5, [5, 5], 0],
    [4, [6, 9], -2],
    [7, [6], null],
    [null, [3, 5], null],
    [7, [null, 5], null],
  ] as const)('%s after %j differs by %s', (value, course, difference) =>
    expect(differenceToBefore(value, course)).toBe(difference),
  )

  it.each([
    [0, 'as the week before'],
    [3, '3 more than the week before'],
    [-2, '2 fewer than the week before'],
  ])('a difference of %i reads: %s', (difference, words) =>
    expect(differenceWords(difference, 'week', String)).toBe(words),
  )
})
