import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays } from '../calendar/day.ts'
import {
  iterationOffset,
  type Release,
  releaseOffset,
  type Span,
  spell,
} from './tree/vocabulary.ts'
import { vocabulary } from '../../test/vocabulary.ts'

const iterations: Span[] = [
  { id: 'a1', owner: 'a', start: '2026-01-01', end: '2026-01-14' },
  { id: 'a2', owner: 'a', start: '2026-01-15', end: '2026-01-28' },
  { id: 'a3', owner: 'a', start: '2026-01-29', end: '2026-02-11' },
  { id: 'b1', owner: 'b', start: '2026-01-10', end: '2026-01-20' },
  { id: 'none', owner: 'a', start: null, end: null },
]

describe('how far an iteration lies', () => {
  it.each<[string, string, number | null]>([
    ['a1', '2026-01-20', -1],
    ['a2', '2026-01-20', 0],
    ['a3', '2026-01-20', 1],
    ['a3', '2026-01-05', 2],
    ['a1', '2026-02-01', -2],
    ['a1', '2026-01-14', 0],
    ['b1', '2026-01-05', 1],
    ['none', '2026-01-20', null],
    ['lost', '2026-01-20', null],
  ])('%s on %s is %s', (id, today, offset) => {
    expect(iterationOffset(iterations, id, today)).toBe(offset)
  })

  it('goes up by one from each iteration to the next of the same owner, whatever the day', () => {
    const spans = (starts: number[]): Span[] =>
      starts.map((days, index) => ({
        id: `i${index}`,
        owner: 'a',
        start: addDays('2026-01-01', days * 10),
        end: addDays('2026-01-01', days * 10 + 9),
      }))
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(40), { minLength: 2, maxLength: 8 }),
        fc.nat(420),
        (starts, day) => {
          const ordered = spans([...starts].sort((a, b) => a - b))
          const offsets = ordered.map((span) =>
            iterationOffset(ordered, span.id, addDays('2026-01-01', day))!,
          )
          for (const [index, offset] of offsets.entries())
            if (index > 0) expect(offset).toBeGreaterThan(offsets[index - 1]!)
          expect(offsets.filter((offset) => offset === 0).length).toBeLessThanOrEqual(1)
        },
      ),
    )
  })
})

describe('how far a release lies', () => {
  const releases: Release[] = [
    { id: 'r1', projects: ['a'], start: null, end: '2026-01-10' },
    { id: 'r2', projects: ['a', 'b'], start: null, end: '2026-02-10' },
    { id: 'r3', projects: ['a'], start: null, end: '2026-03-10' },
    { id: 'r4', projects: ['b'], start: null, end: null },
  ]
  it.each<[string, string, string, number | null]>([
    ['r1', 'a', '2026-01-20', -1],
    ['r2', 'a', '2026-01-20', 0],
    ['r3', 'a', '2026-01-20', 1],
    ['r1', 'a', '2026-01-10', 0],
    ['r1', 'a', '2026-02-20', -2],
    ['lost', 'a', '2026-01-20', null],
    ['r2', 'b', '2026-01-01', 0],
    ['r2', 'a', '2026-01-01', 1],
    ['r1', 'b', '2026-01-20', null],
    ['r4', 'b', '2026-01-20', null],
  ])('%s in %s on %s is %s', (id, project, today, offset) => {
    expect(releaseOffset(releases, id, project, today)).toBe(offset)
  })
})

describe('the spelling of a choice', () => {
  it.each<[Parameters<typeof spell>[1], string, string | undefined]>([
    ['status', 'st_open', 'Open'],
    ['component', 'co_1', 'YARD: Hinge'],
    ['person', 'pe_ana', 'Ana Brandt <ana@marrowmere.example>'],
    ['person', 'pe_ilse', 'Ilse Varga'],
    ['label', 'la_car', 'deck: car deck'],
    ['status', 'st_lost', undefined],
  ])('of %s %s is %s', (domain, id, written) => {
    expect(spell(vocabulary, domain, id)).toBe(written)
  })
})
