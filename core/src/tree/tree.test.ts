import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  moveOf,
  outline,
  type Placed,
  placeOf,
  type Standing,
  standsIn,
  type Step,
  sumBelow,
} from './index.ts'

const rows: Placed[] = [
  { ref: 'A/1', parent: null },
  { ref: 'A/2', parent: 'A/1' },
  { ref: 'A/3', parent: 'A/1' },
  { ref: 'A/4', parent: 'A/2' },
  { ref: 'A/5', parent: 'B/9' },
]
const all = outline(rows, () => true)

describe('the outline of a tree', () => {
  it('puts each row after what it stands below, and what stands below nothing known at the top', () => {
    expect(all.map(({ ref, depth, place, of }) => [ref, depth, place, of])).toEqual([
      ['A/1', 0, 1, 2],
      ['A/2', 1, 1, 2],
      ['A/4', 2, 1, 1],
      ['A/3', 1, 2, 2],
      ['A/5', 0, 2, 2],
    ])
  })
  it('leaves out what stands below folded rows', () => {
    expect(outline(rows, (ref) => ref === 'A/1').map(({ ref }) => ref)).toEqual([
      'A/1',
      'A/2',
      'A/3',
      'A/5',
    ])
  })
  it.each([
    ['A/4', 'A/1', true],
    ['A/1', 'A/1', true],
    ['A/1', 'A/4', false],
    ['A/3', 'A/2', false],
  ])('%s stands in %s: %s', (ref, above, expected) => {
    expect(standsIn(rows, ref, above)).toBe(expected)
  })
  const forest = fc.array(fc.nat(), { maxLength: 40 }).map((parents) =>
    parents.map((parent, at): Placed => ({
      ref: `A/${at}`,
      parent: parent % (at + 1) === at ? null : `A/${parent % (at + 1)}`,
    })),
  )
  it('shows every row of any forest once, one level deeper than what it stands below', () => {
    fc.assert(
      fc.property(forest, (given) => {
        const shown = outline(given, () => true)
        expect(shown.map(({ ref }) => ref).toSorted()).toEqual(
          given.map(({ ref }) => ref).toSorted(),
        )
        const depths = new Map(shown.map(({ ref, depth }) => [ref, depth]))
        for (const { parent, depth } of shown)
          expect(depth).toBe(parent === null ? 0 : depths.get(parent)! + 1)
      }),
    )
  })
})

describe('moving a row by keyboard', () => {
  const cases: readonly (readonly [string, Step, ReturnType<typeof moveOf>])[] = [
    ['A/3', 'up', { position: { before: 'A/2' } }],
    ['A/2', 'up', undefined],
    ['A/2', 'down', { position: { after: 'A/3' } }],
    ['A/3', 'down', undefined],
    ['A/3', 'in', { parent: 'A/2' }],
    ['A/2', 'in', undefined],
    ['A/4', 'out', { parent: 'A/1', position: { after: 'A/2' } }],
    ['A/2', 'out', { parent: null, position: { after: 'A/1' } }],
    ['A/1', 'out', undefined],
    ['A/9', 'up', undefined],
  ]
  it.each(cases)('%s %s', (ref, step, expected) => {
    expect(moveOf(all, ref, step)).toEqual(expected)
  })
  it.each([
    ['A/3', { parent: 'A/1', position: { after: 'A/2' } }],
    ['A/2', { parent: 'A/1', position: { before: 'A/3' } }],
    ['A/4', { parent: 'A/2' }],
    ['A/9', {}],
  ] as const)('%s comes back to where it stood', (ref, expected) => {
    expect(placeOf(all, ref)).toEqual(expected)
  })
  it('never goes into itself', () => {
    const steps: readonly Step[] = ['up', 'down', 'in', 'out']
    const isInside = (row: Standing<Placed>, step: Step): boolean => {
      const parent = moveOf(all, row.ref, step)?.parent
      return typeof parent === 'string' && standsIn(rows, parent, row.ref)
    }
    expect(all.flatMap((row) => steps.filter((step) => isInside(row, step)))).toEqual([])
  })
})

describe('what stands below', () => {
  it('is counted over all projects, and summed by unit, exactly', () => {
    const part = { items: 2, done: 1, all: '0.3', finished: '0.1', estimated: true }
    const sums = sumBelow(
      [
        { ...part, project: 1 },
        { ...part, project: 2, all: '0.6' },
        { ...part, project: 3, all: '5' },
        { ...part, project: 4, all: '0', finished: '0', estimated: false },
      ],
      (project) => (project === 3 ? 'points' : 'hours'),
    )
    expect(sums).toEqual({
      items: 8,
      done: 4,
      estimates: [
        { unit: 'hours', all: 0.9, done: 0.2 },
        { unit: 'points', all: 5, done: 0.1 },
      ],
    })
  })
})
