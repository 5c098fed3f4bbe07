import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import type { Cql2Json } from './toJson.ts'
import { readQuery, type Written } from './read.ts'

const read = (written: Written) => readQuery(written, vocabulary)
const text = (filter: string) => read({ lang: 'cql2-text', filter })
const json = (filter: unknown) => read({ lang: 'cql2-json', filter })
const firstError = (outcome: ReturnType<typeof read>) => {
  if (outcome.ok) throw new Error('it was accepted')
  return outcome.errors[0]!
}

const title = { property: 'title' }
const sumOf = (terms: number): Cql2Json =>
  Array.from({ length: terms - 1 }).reduce<Cql2Json>((sum) => ({ op: '+', args: [sum, 1] }), 1)

describe('what a query may ask is bounded where it enters', () => {
  it.each<[string, () => ReturnType<typeof read>, RegExp]>([
    [
      'a sum of 80 terms in text',
      () => text(`estimate = ${Array(80).fill('1').join(' + ')}`),
      /64 terms/,
    ],
    [
      'a sum of 2,050 terms in text',
      () => text(`estimate = ${Array(2050).fill('1').join(' + ')}`),
      /64 terms/,
    ],
    [
      'a sum of 80 terms in JSON',
      () => json({ op: '=', args: [{ property: 'estimate' }, sumOf(80)] }),
      /nested deeper than 64/,
    ],
    [
      'sums within brackets that together are too deep',
      () =>
        text(
          `estimate = (${Array(40).fill('1').join(' - ')}) + ${Array(40).fill('1').join(' + ')}`,
        ),
      /nested deeper than 64/,
    ],
    [
      '10,001 members in lists of 2,000',
      () =>
        json({
          op: 'or',
          args: Array.from({ length: 6 }, () => ({
            op: 'in',
            args: [title, Array(2000).fill('x')],
          })),
        }),
      /hold 12000 values; at most 10000/,
    ],
    [
      '6,000 parts',
      () =>
        json({
          op: 'or',
          args: Array.from({ length: 2000 }, () => ({ op: '=', args: [title, 'x'] })),
        }),
      /6001 parts; at most 5000/,
    ],
    [
      'a list of 2,001',
      () => json({ op: 'in', args: [title, Array(2001).fill('x')] }),
      /at most 2000/,
    ],
  ])('%s is refused in words', (_, ask, words) => {
    expect(firstError(ask()).message).toMatch(words)
  })

  it('what is accepted can be read back, from its text and from its JSON', () => {
    for (const terms of [2, 30, 63]) {
      const outcome = text(`estimate = ${Array(terms).fill('1').join(' + ')}`)
      if (!outcome.ok) throw new Error(outcome.errors[0]!.message)
      expect([
        text(outcome.value.text).ok,
        json(outcome.value.json).ok,
        read({ lang: 'cql2-json', filter: outcome.value.kept, spelling: 'identity' }).ok,
      ]).toEqual([true, true, true])
    }
  })

  it('stops at the first twenty errors', () => {
    const wrong = Array.from({ length: 1000 }, (_, index) => ({
      op: '=',
      args: [{ property: `nothing_${index}` }, 1],
    }))
    const outcome = json({ op: 'or', args: wrong })
    expect(outcome.ok ? 0 : outcome.errors.length).toBe(20)
  })

  it('seeks no nearest spelling of what is longer than a name', () => {
    expect(firstError(text(`${'s'.repeat(65)} = 1`)).nearest).toBeUndefined()
  })

  it.each(['days_ago(999999)', 'days_ahead(36526)'])('%s reaches too far', (call) => {
    expect(firstError(text(`due > ${call}`)).message).toMatch(/a hundred years/)
  })
  it.each(['year(9999)', 'month(-1201)', 'week(5219)', 'quarter(401)', 'day(99999999999999)'])(
    '%s reaches too far',
    (call) => {
      expect(firstError(text(`T_INTERSECTS(due, ${call})`)).message).toMatch(/a hundred years/)
    },
  )
})

describe('a query as JSON is judged as its text is', () => {
  it.each<[string, unknown, string, RegExp]>([
    [
      'a pattern that is a property',
      { op: 'like', args: [title, { property: 'description' }] },
      '/args/1',
      /written out/,
    ],
    ['a pattern that is a number', { op: 'like', args: [title, 5] }, '/args/1', /written out/],
    [
      'a folded pattern that is a property',
      { op: 'like', args: [title, { op: 'casei', args: [{ property: 'title' }] }] },
      '/args/1/args/0',
      /written out/,
    ],
    [
      'an interval that ends before it starts',
      {
        op: 't_intersects',
        args: [{ property: 'due' }, { interval: ['2026-03-02', '2026-03-01'] }],
      },
      '/args/1',
      /ends before/,
    ],
    [
      'a text beside a number',
      {
        op: 'and',
        args: [
          { op: '=', args: [{ property: 'estimate' }, 3] },
          { op: '>', args: [{ property: 'estimate' }, 'x'] },
        ],
      },
      '/args/1/args/1',
      /cannot be compared/,
    ],
    [
      'a name that is unknown',
      { op: 'not', args: [{ op: '=', args: [{ property: 'nowhere' }, 3] }] },
      '/args/0/args/0',
      /no property/,
    ],
  ])('%s is refused with its pointer', (_, filter, pointer, words) => {
    const error = firstError(json(filter))
    expect([error.pointer, error.message]).toEqual([pointer, expect.stringMatching(words)])
  })

  it('a number of more digits than double precision keeps them', () => {
    const outcome = json({
      op: '=',
      args: [{ property: 'estimate' }, { op: 'decimal', args: ['12345678901234567890.12'] }],
    })
    expect(outcome.ok && outcome.value.text).toBe('estimate = 12345678901234567890.12')
  })

  it('TRUE is no empty text, and empty text is an error', () => {
    const all = json(true)
    expect(all.ok && all.value.text).toBe('TRUE')
    for (const nothing of ['', '  \n'])
      expect(firstError(text(nothing)).message).toMatch(/nothing to ask/)
  })

  it.each([
    "title = ('x')",
    "created > (DATE('2026-01-01'))",
    "created > (TIMESTAMP('2026-01-01T00:00:00Z'))",
    'on_hold = (TRUE)',
  ])('%s has brackets that the grammar does not', (filter) => {
    expect(firstError(text(filter)).message).toMatch(/Brackets/)
  })
  it('numbers, handles and functions may stand in brackets', () => {
    expect(text("(estimate) = (3) AND (days_in(status, 'Open')) > (1 + 2)").ok).toBe(true)
  })
})
