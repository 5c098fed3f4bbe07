import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import type { RowGiven } from './row.ts'
import { unknownChoices } from './unknown.ts'

const row = (given: RowGiven['given']): RowGiven => ({
  line: 2,
  ref: null,
  key: null,
  given,
  cells: [],
  links: [],
  wrong: [],
})

describe('what rows name that there is not', () => {
  it.each<[string, readonly RowGiven['given'][], readonly [string, string, number][]]>([
    ['nothing, where all is there', [{ labels: ['wet', 'deck: car deck'] }], []],
    [
      'labels, the most frequent first',
      [{ labels: ['dry', 'wet'] }, { labels: ['cold', 'dry'] }],
      [
        ['labels', 'dry', 2],
        ['labels', 'cold', 1],
      ],
    ],
    ['components', [{ components: ['Winch'] }], [['components', 'Winch', 1]]],
    [
      'no types, people or items, which are not made so',
      [{ type: 'Barge', assignee: 'Nobody', parent: 'A-1' }],
      [],
    ],
    ['options of fields', [{ fields: { berth: 'Slip 9' } }], [['berth', 'Slip 9', 1]]],
  ])('is %s', (_, given, expected) => {
    const found = unknownChoices(given.map(row), vocabulary)
    expect(found.map(({ handle, value, rows }) => [handle, value, rows])).toEqual(expected)
  })
})
