import { describe, expect, it } from 'vitest'
import { heldBefore } from './heldBefore.ts'

// 1 stays; 2 and 3 became it; 7, 8 and 9 have nothing to do with it.
describe('what an item holds once a merge is undone', () => {
  it.each<[string, number[], number[], number[]]>([
    ['it held one of the others', [1], [2], [2]],
    ['it held two of the others', [1], [2, 3], [2, 3]],
    ['it held the one and another', [1], [1, 2], [1, 2]],
    ['it holds what has nothing to do with it', [1, 7], [2, 7], [2, 7]],
    ['it was given something since', [1, 7, 8], [2, 7], [2, 7, 8]],
    ['something was taken since', [1], [2, 9], [2]],
  ])('%s', (_, now, before, expected) => {
    expect(heldBefore(now, before, 1, [2, 3])).toEqual(expected)
  })
})
