import { mean as meanOf, quantileSorted } from 'd3-array'
import fc from 'fast-check'
import { mean as reference } from 'simple-statistics'
import { describe, expect, it } from 'vitest'
import { cellFilter } from './cell.ts'
import { course, runningSums } from './course.ts'
import { mean, percentile } from './percentile.ts'
import percentiles from './vectors/percentiles.json' with { type: 'json' }

interface Case {
  name: string
  input: {
    data: number[] | { first: number; thenRepeat: number[]; times: number }
    p?: number | number[]
    type?: number
    percentiles?: number[]
  }
  expected: Record<string, number | number[]>
  tolerance?: number
}

const dataOf = ({ data }: Case['input']): number[] =>
  Array.isArray(data)
    ? data
    : [data.first, ...Array.from({ length: data.times }, () => data.thenRepeat).flat()]
const sorted = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b)
const all = percentiles as unknown as Case[]

describe('percentiles of type 7 (Hyndman & Fan 1996; vectors/percentiles.json, sources there)', () => {
  const single = all.filter(
    (entry) => typeof entry.input.p === 'number' && entry.expected['7'] !== undefined,
  )
  it.each(single.map((entry) => [entry.name, entry] as const))(
    '%s',
    (_, { input, expected, tolerance }) => {
      const ascending = sorted(dataOf(input))
      const p = input.p as number
      expect(percentile(ascending, p * 100)).toBeCloseTo(expected['7'] as number, tolerance ? 6 : 9)
    },
  )

  const several = all.filter((entry) => entry.expected['type7'] !== undefined)
  it.each(several.map((entry) => [entry.name, entry] as const))('%s', (_, { input, expected }) => {
    const ascending = sorted(dataOf(input))
    for (const [index, p] of (input.p as number[]).entries())
      expect(percentile(ascending, p * 100)).toBeCloseTo((expected['type7'] as number[])[index]!, 8)
  })

  const published = all.filter((entry) => entry.input.type === 7)
  it.each(published.map((entry) => [entry.name, entry] as const))(
    '%s',
    (_, { input, expected }) => {
      for (const p of input.percentiles!)
        expect(percentile(sorted(dataOf(input)), p)).toBeCloseTo(expected[String(p)] as number, 9)
    },
  )

  it('are what d3-array computes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1 }),
        fc.integer({ min: 0, max: 100 }),
        (values, p) => {
          expect(percentile(sorted(values), p)).toBeCloseTo(
            quantileSorted(sorted(values), p / 100)!,
            9,
          )
        },
      ),
    )
  })

  it('of nothing are nothing', () => {
    expect([percentile([], 50), mean([])]).toEqual([null, null])
  })
})

describe('the mean (NIST StRD; vectors/percentiles.json, certified values recalled from memory there)', () => {
  const certified = all.filter((entry) => entry.expected['mean'] !== undefined)
  it.each(certified.map((entry) => [entry.name, entry] as const))(
    '%s',
    (_, { input, expected }) => {
      expect(mean(dataOf(input))! / (expected['mean'] as number)).toBeCloseTo(1, 12)
    },
  )

  it('is what two libraries compute', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1 }), (values) => {
        expect(mean(values)).toBeCloseTo(reference(values), 9)
        expect(mean(values)).toBeCloseTo(meanOf(values)!, 9)
      }),
    )
  })
})

describe('the course of a measure', () => {
  const span = fc
    .record({
      from: fc.nat(200),
      length: fc.integer({ min: 1, max: 80 }),
      value: fc.integer({ min: -3, max: 9 }),
    })
    .map(({ from, length, value }) => ({ from, to: from + length, value }))

  it('equals a count of the states that hold just before each step’s end', () => {
    fc.assert(
      fc.property(fc.array(span), fc.array(fc.nat(260), { maxLength: 12 }), (states, ends) => {
        const steps = sorted(ends)
        expect(course(states, steps)).toEqual(
          steps.map((end) =>
            states
              .filter((state) => state.from < end && state.to >= end)
              .reduce((sum, state) => sum + state.value, 0),
          ),
        )
      }),
    )
  })

  it('equals the running sums of what a database puts into buckets', () => {
    fc.assert(
      fc.property(
        fc.array(span),
        fc.array(fc.nat(260), { minLength: 1, maxLength: 12 }),
        (states, ends) => {
          const bounds = sorted([...new Set(ends)])
          const bucket = (at: number): number => bounds.filter((bound) => bound <= at).length
          const buckets = states.flatMap(({ from, to, value }) => [
            { bucket: bucket(from), key: 'a', change: value },
            { bucket: bucket(to), key: 'a', change: -value },
          ])
          expect(
            (runningSums(buckets, bounds.length).get('a') ?? bounds.map(() => 0)).map(
              (value) => value + 0,
            ),
          ).toEqual(course(states, bounds).map((value) => value + 0))
        },
      ),
    )
  })
})

describe('the items behind a cell', () => {
  const property = (type: object): never => ({ handle: 'labels', type }) as never
  it.each<[string, unknown, unknown, string | null, unknown]>([
    [
      'a choice',
      true,
      { kind: 'choice', domain: 'status' },
      'st_open',
      { op: '=', args: [{ property: 'labels' }, 'st_open'] },
    ],
    [
      'an empty value',
      true,
      { kind: 'choice', domain: 'status' },
      null,
      { op: 'isNull', args: [{ property: 'labels' }] },
    ],
    [
      'one of several',
      true,
      { kind: 'array', domain: 'label' },
      'la_1',
      { op: 'a_contains', args: [{ property: 'labels' }, ['la_1']] },
    ],
    [
      'a day',
      { op: '=', args: [] },
      { kind: 'date' },
      '2026-03-01',
      {
        op: 'and',
        args: [
          { op: '=', args: [] },
          { op: '=', args: [{ property: 'labels' }, { date: '2026-03-01' }] },
        ],
      },
    ],
    ['yes', true, { kind: 'boolean' }, 'true', { op: '=', args: [{ property: 'labels' }, true] }],
  ])('%s', (_, filter, type, key, expected) => {
    expect(cellFilter(filter as never, property(type as object), key)).toEqual(expected)
  })
})
