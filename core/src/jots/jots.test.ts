import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type FiledJot, planFiling, readJots, withBelow, writeJots } from './index.ts'

describe('reading jotted lines', () => {
  const cases: readonly (readonly [
    string,
    string,
    readonly (readonly [string, number | null])[],
  ])[] = [
    ['one title', '  Paint the rail ', [['Paint the rail', null]]],
    [
      'lines without a title',
      'a\n\n   \n- \nb',
      [
        ['a', null],
        ['b', null],
      ],
    ],
    [
      'what is indented stands below',
      'Hull\n  Blast\n  Paint\nEngine',
      [
        ['Hull', null],
        ['Blast', 0],
        ['Paint', 0],
        ['Engine', null],
      ],
    ],
    [
      'as deep as one goes',
      'a\n\tb\n\t\tc\n\td',
      [
        ['a', null],
        ['b', 0],
        ['c', 1],
        ['d', 0],
      ],
    ],
    [
      'a tabulator is four columns',
      'a\n\tb\n    c',
      [
        ['a', null],
        ['b', 0],
        ['c', 0],
      ],
    ],
    [
      'a line further out than its neighbours',
      '    a\n  b\nc',
      [
        ['a', null],
        ['b', null],
        ['c', null],
      ],
    ],
    [
      'between two depths',
      'a\n    b\n  c',
      [
        ['a', null],
        ['b', 0],
        ['c', 0],
      ],
    ],
    [
      'marks of lists',
      '- a\n* b\n• c\n1. d\n2) e\n- [ ] f\n[x] g',
      [
        ['a', null],
        ['b', null],
        ['c', null],
        ['d', null],
        ['e', null],
        ['f', null],
        ['g', null],
      ],
    ],
    [
      'no mark without a space',
      '-5 degrees\n1.5 m',
      [
        ['-5 degrees', null],
        ['1.5 m', null],
      ],
    ],
    [
      'all ends of lines',
      'a\r\nb\rc\u2028d',
      [
        ['a', null],
        ['b', null],
        ['c', null],
        ['d', null],
      ],
    ],
    ['spaces within', 'a \t  b', [['a b', null]]],
  ]
  it.each(cases)('%s', (_, text, expected) => {
    expect(readJots(text)).toEqual(expected.map(([title, above]) => ({ title, above })))
  })

  const word = fc.stringMatching(/^[a-z]{1,8}$/)
  const lines = fc
    .array(fc.record({ title: word, back: fc.nat(6) }), { maxLength: 30 })
    .map((all) =>
      all.map(({ title, back }, at) => {
        const above = at - 1 - back
        return { title, above: above < 0 ? null : above }
      }),
    )
  it('writes lines that read as the same again, wherever lines follow what they stand below', () => {
    fc.assert(
      fc.property(lines, (given) => {
        const read = readJots(writeJots(given))
        expect(read.map(({ title }) => title)).toEqual(given.map(({ title }) => title))
        expect(readJots(writeJots(read))).toEqual(read)
      }),
    )
  })
  it('puts every line below one that is before it', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        for (const [at, { title, above }] of readJots(text).entries()) {
          expect(title).not.toBe('')
          expect(above ?? -1).toBeLessThan(at)
        }
      }),
    )
  })
})

describe('planning what jots become', () => {
  const types = [
    { id: 'check', below: [] },
    { id: 'job', below: ['check'] },
    { id: 'package', below: ['job', 'check'] },
  ]
  const jots: FiledJot[] = [
    { id: 'a', above: null },
    { id: 'b', above: 'a' },
    { id: 'c', above: 'b' },
    { id: 'd', above: null },
  ]
  const planned = (
    ids: readonly string[],
    type: string,
  ): (readonly [string, string | null, string | null])[] =>
    planFiling(jots, new Set(ids), type, types).map((filing) => [
      filing.id,
      filing.above,
      filing.type,
    ])

  it('gives what stands below the first type that may', () => {
    expect(planned(['a', 'b', 'd'], 'job')).toEqual([
      ['a', null, 'job'],
      ['b', 'a', 'check'],
      ['d', null, 'job'],
    ])
  })
  it('tells what would stand too deep', () => {
    expect(planned(['a', 'b', 'c'], 'job').at(-1)).toEqual(['c', 'b', null])
  })
  it('gives what is chosen without what it stands below the type itself', () => {
    expect(planned(['b', 'c'], 'job')).toEqual([
      ['b', null, 'job'],
      ['c', 'b', 'check'],
    ])
  })
  it('files what is above first, in whatever order they come', () => {
    const turned = jots.toReversed()
    const plan = planFiling(turned, new Set(['a', 'b', 'c']), 'package', types)
    expect(plan.map(({ id }) => id)).toEqual(['a', 'b', 'c'])
  })
  it('finds all that stands below', () => {
    expect(withBelow(jots, 'a')).toEqual(['a', 'b', 'c'])
  })
})
