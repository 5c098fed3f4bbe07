import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nearGroups, nearness } from './near.ts'
import cases from './vectors/near.json' with { type: 'json' }

interface Case {
  readonly name: string
  readonly input: { readonly a: string; readonly b: string }
  readonly expected: string
}

const all = cases as Case[]

// Pairs of titles with what a person would say of them: common practice, no source.
describe('titles that say the same', () => {
  it.each(
    all
      .filter((entry) => entry.expected === 'same')
      .map((entry) => [entry.name, entry.input] as const),
  )('%s', (_, { a, b }) => {
    expect(nearness(a, b)).toBe('same')
  })
})

describe('titles that do not', () => {
  it.each(
    all
      .filter((entry) => entry.expected !== 'same')
      .map((entry) => [entry.name, entry.input] as const),
  )('%s', (_, { a, b }) => {
    expect(nearness(a, b)).not.toBe('same')
  })
})

describe('nearness', () => {
  it('does not mind which title comes first, and a title is the same as itself', () => {
    const title = fc.oneof(
      fc.constantFrom(...all.flatMap((entry) => [entry.input.a, entry.input.b])),
      fc.string({ minLength: 1, maxLength: 14 }),
    )
    fc.assert(
      fc.property(title, title, (a, b) => {
        expect([nearness(a, b), nearness(a, a)]).toEqual([nearness(b, a), 'same'])
      }),
      { numRuns: 400 },
    )
  })

  it('tells most of what may be the same', () => {
    expect(
      all.filter(
        (entry) => entry.expected === 'maybe' && nearness(entry.input.a, entry.input.b) === 'maybe',
      ).length,
    ).toBeGreaterThanOrEqual(10)
  })

  it('gathers labels that mark the same', () => {
    const labels = ['ramp', 'hull', 'Ramps', 'photo taken', 'Hull ', 'RAMP'].map((title) => ({
      title,
    }))
    expect(nearGroups(labels).map((group) => group.map((entry) => entry.title))).toEqual([
      ['ramp', 'Ramps', 'RAMP'],
      ['hull', 'Hull '],
    ])
  })

  it('groups as comparing each with each would', () => {
    const title = fc.oneof(
      fc.constantFrom(...all.flatMap((entry) => [entry.input.a, entry.input.b])),
      fc.string({ maxLength: 4 }),
    )
    fc.assert(
      fc.property(fc.array(title, { maxLength: 40 }), (titles) => {
        const groups: string[][] = []
        for (const title of titles) {
          const group = groups.find((members) =>
            members.some((member) => nearness(member, title) === 'same'),
          )
          if (group) group.push(title)
          else groups.push([title])
        }
        expect(
          nearGroups(titles.map((text) => ({ title: text }))).map((group) =>
            group.map((entry) => entry.title),
          ),
        ).toEqual(groups.filter((group) => group.length > 1).sort((a, b) => b.length - a.length))
      }),
      { numRuns: 300 },
    )
  })
})
