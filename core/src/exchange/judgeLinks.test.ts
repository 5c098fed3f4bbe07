import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { closing, type Edge } from './circles.ts'
import { judgeLinks, type LinkGround } from './judgeLinks.ts'
import type { RowOutcome } from './judgeRows.ts'
import type { RowGiven } from './row.ts'

/** Whether edges lead on from an item to another, by trying every way. */
function reaches(edges: readonly Edge[], from: string, to: string, met: string[] = []): boolean {
  if (from === to) return true
  return edges.some(
    (edge) =>
      edge.from === from && !met.includes(edge.to) && reaches(edges, edge.to, to, [...met, from]),
  )
}

describe('links that close a circle', () => {
  const edge = fc
    .record({ from: fc.constantFrom(...'abcdefg'), to: fc.constantFrom(...'abcdefg') })
    .filter(({ from, to }) => from !== to)

  it('are those that would, were each added by itself after those before it', () => {
    fc.assert(
      fc.property(
        fc.array(edge, { maxLength: 6 }),
        fc.array(edge, { maxLength: 14 }),
        (some, added) => {
          const there: Edge[] = []
          for (const entry of some) if (!reaches(there, entry.to, entry.from)) there.push(entry)
          const held = [...there]
          const expected = added.filter((entry) => {
            const closes = reaches(held, entry.to, entry.from)
            if (!closes) held.push(entry)
            return closes
          })
          expect([...closing(there, added)]).toEqual(expected)
        },
      ),
    )
  })
})

const ground: LinkGround = {
  document: {
    linkKinds: {
      lk_waits: {
        title: 'waits for',
        inverse: 'holds up',
        order: 'a1',
        description: '',
        refusesCircles: true,
      },
      lk_finds: {
        title: 'finds',
        inverse: 'was found by',
        order: 'a2',
        description: '',
        from: ['ty_job'],
        to: ['ty_defect'],
      },
    },
    types: { ty_job: { title: 'job' }, ty_defect: { title: 'defect' } },
  },
  refOf: (name) => (name.startsWith('K') ? `YARD/1${name.slice(1)}` : name),
  typeOf: (ref) =>
    ({ 'YARD/9': 'ty_defect', 'YARD/99': undefined })[ref] ??
    (ref === 'YARD/99' ? undefined : 'ty_job'),
  there: [{ kind: 'lk_waits', from: 'YARD/9', to: 'YARD/11' }],
}

/** Rows 1, 2, 3, … that make YARD/11, YARD/12, … and ask for links. */
function judged(...wishes: (readonly [string, 'out' | 'in', string])[][]) {
  const rows = wishes.map((links, index): RowGiven => ({
    line: index + 1,
    cells: [],
    ref: null,
    key: `K${index + 1}`,
    given: {},
    links: links.map(([kind, direction, to]) => ({ kind, direction, to, column: 'Links' })),
    wrong: [],
  }))
  const outcomes = new Map(
    rows.map(({ line }): [number, RowOutcome] => [
      line,
      { kind: 'made', line, ref: `YARD/1${line}`, item: {} },
    ]),
  )
  return judgeLinks(rows, outcomes, ground)
}

describe('links of rows', () => {
  it('lead to rows before and after, to items that are there, once, in the direction of their column', () => {
    const { links, problems } = judged(
      [['lk_waits', 'out', 'K2']],
      [
        ['lk_waits', 'in', 'K1'],
        ['lk_finds', 'out', 'YARD/9'],
      ],
    )
    expect(problems).toEqual([])
    expect(links.map(({ kind, from, to }) => [kind, from, to])).toEqual([
      ['lk_waits', 'YARD/11', 'YARD/12'],
      ['lk_finds', 'YARD/12', 'YARD/9'],
    ])
  })

  it('that are there already are not made again', () => {
    expect(judged([['lk_waits', 'in', 'YARD/9']])).toEqual({ links: [], problems: [] })
  })

  it.each([
    ['an item that is not to be seen', 'lk_waits', 'out', 'YARD/99', /There is no item YARD\/99/],
    ['the item itself', 'lk_waits', 'out', 'K1', /not linked with itself/],
    ['a circle with what is there', 'lk_waits', 'out', 'YARD/9', /circle of “waits for”/],
    [
      'a type that the kind does not join',
      'lk_finds',
      'out',
      'YARD/8',
      /does not join a job at this end; it takes defect/,
    ],
    [
      'a type at the other end',
      'lk_finds',
      'in',
      'YARD/9',
      /does not join a defect at this end; it takes job/,
    ],
  ] as const)('to %s are told with line and column', (_, kind, direction, to, message) => {
    const { links, problems } = judged([[kind, direction, to]])
    expect(links).toEqual([])
    expect(problems).toMatchObject([{ line: 1, column: 'Links', found: to }])
    expect(problems[0]!.message).toMatch(message)
  })
})
