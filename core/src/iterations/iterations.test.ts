import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays, isWorkingDay, type WorkingTime } from '../calendar/index.ts'
import weeks from './vectors/iso-weeks.json' with { type: 'json' }
import {
  capacityOf,
  hoursOn,
  isoWeek,
  nextStart,
  outcomeOf,
  overlap,
  type PlannedItem,
  spansOf,
  sumOf,
} from './index.ts'

describe('a series', () => {
  const series = { name: 'Apps {n}', number: 7, first: '2026-03-02', weeks: 2, count: 3 }
  it('follows without a gap, each named by its number', () => {
    expect(spansOf(series)).toEqual([
      { title: 'Apps 7', start: '2026-03-02', end: '2026-03-15' },
      { title: 'Apps 8', start: '2026-03-16', end: '2026-03-29' },
      { title: 'Apps 9', start: '2026-03-30', end: '2026-04-12' },
    ])
  })
  it('may be named by week and year', () => {
    const named = spansOf({ ...series, name: '{year}, week {week}', first: '2025-12-29', count: 1 })
    expect(named[0]!.title).toBe('2026, week 01')
  })
  it.each(weeks)('$name', ({ input, expected }) => {
    expect(isoWeek(input.date)).toEqual({ year: expected.year, week: expected.number })
  })
  const day = fc.integer({ min: 0, max: 4000 }).map((days) => addDays('2020-01-01', days))
  it('never overlaps itself, and covers every day from its first to its last', () => {
    const any = fc.record({
      first: day,
      weeks: fc.integer({ min: 1, max: 12 }),
      count: fc.integer({ min: 1, max: 20 }),
    })
    fc.assert(
      fc.property(any, (given) => {
        const spans = spansOf({ name: '{n}', number: 1, ...given })
        for (const [index, span] of spans.entries()) {
          expect(addDays(span.start, given.weeks * 7 - 1)).toBe(span.end)
          const next = spans[index + 1]
          if (!next) continue
          expect(next.start).toBe(addDays(span.end, 1))
          expect(overlap(span, next)).toBe(false)
        }
      }),
    )
  })
  it.each([
    ['on the Monday to come', [], '2026-11-25', '2026-11-30'],
    ['on this Monday', [], '2026-11-30', '2026-11-30'],
    [
      'after the last span',
      [{ end: '2026-12-06' }, { end: '2026-12-20' }],
      '2026-11-25',
      '2026-12-21',
    ],
    [
      'on a Monday where the last is long past',
      [{ end: '2026-01-04' }],
      '2026-11-25',
      '2026-11-30',
    ],
  ])('goes on %s', (_, spans, today, expected) => {
    expect(nextStart(spans, today)).toBe(expected)
  })
  it.each([
    [['2026-01-01', '2026-01-10'], ['2026-01-10', '2026-01-12'], true],
    [['2026-01-01', '2026-01-10'], ['2026-01-11', '2026-01-12'], false],
    [['2026-01-05', '2026-01-06'], ['2026-01-01', '2026-01-31'], true],
    [[null, '2026-01-06'], ['2026-01-01', '2026-01-31'], false],
  ] as const)('days of %j and %j meet: %s', (entry, other, expected) => {
    const [a, b] = [entry, other].map(([start, end]) => ({ start, end }))
    expect(overlap(a!, b!)).toBe(expected)
    expect(overlap(b!, a!)).toBe(expected)
  })
})

describe('capacity', () => {
  const week: WorkingTime = {
    hours: Object.fromEntries(
      [1, 2, 3, 4, 5].map((day) => [
        day,
        [
          ['08:00', '12:00'],
          ['13:00', '17:00'],
        ],
      ]),
    ),
    daysOff: [{ day: '2026-04-03', title: 'Good Friday' }],
  }
  it('is what people can work on working days on which they are not away', () => {
    const away = [{ start: '2026-04-01', end: '2026-04-05' }]
    const capacity = capacityOf(
      { start: '2026-03-30', end: '2026-04-12' },
      [
        { person: 'ann', absences: [] },
        { person: 'bo', absences: away },
      ],
      week,
    )
    expect(capacity).toEqual({
      workingDays: 9,
      people: [
        { person: 'ann', days: 9, away: 0, hours: 72 },
        { person: 'bo', days: 7, away: 2, hours: 56 },
      ],
      days: 16,
      hours: 128,
    })
  })
  it('counts absences that overlap once', () => {
    const absences = [
      { start: '2026-03-30', end: '2026-03-31' },
      { start: '2026-03-31', end: '2026-04-01' },
    ]
    const { people } = capacityOf(
      { start: '2026-03-30', end: '2026-04-12' },
      [{ person: 'ann', absences }],
      week,
    )
    expect(people[0]).toMatchObject({ days: 6, away: 3 })
  })
  it('equals a count day by day, on any calendar', () => {
    const offset = fc.integer({ min: 0, max: 60 })
    const span = fc.tuple(offset, offset).map(([from, to]) => ({
      start: addDays('2026-01-01', Math.min(from, to)),
      end: addDays('2026-01-01', Math.max(from, to)),
    }))
    const window = fc.constantFrom<[string, string]>(['06:00', '10:30'], ['22:00', '24:00'])
    const calendar = fc.record({
      hours: fc.dictionary(
        fc.constantFrom('1', '2', '3', '4', '5', '6', '7'),
        fc.array(window, { maxLength: 1 }),
      ),
      daysOff: fc.array(
        offset.map((days) => ({ day: addDays('2026-01-01', days), title: '' })),
        { maxLength: 5 },
      ),
    })
    fc.assert(
      fc.property(span, fc.array(span, { maxLength: 3 }), calendar, (whole, absences, working) => {
        let [days, hours] = [0, 0]
        for (let at = 0; at <= 60; at += 1) {
          const day = addDays('2026-01-01', at)
          const isIn = whole.start <= day && day <= whole.end
          const isAway = absences.some(({ start, end }) => start <= day && day <= end)
          if (!isIn || isAway || !isWorkingDay(day, working)) continue
          days += 1
          hours += hoursOn(day, working)
        }
        expect(capacityOf(whole, [{ person: 'x', absences }], working)).toMatchObject({
          days,
          hours,
        })
      }),
    )
  })
})

describe('what became of an iteration', () => {
  const item = (ref: string, parts: Partial<PlannedItem> = {}): PlannedItem => ({
    ref,
    isDone: false,
    isOpen: true,
    isInside: true,
    isCommitted: true,
    unit: 'hours',
    estimate: '1',
    ...parts,
  })
  it('tells what was committed, came later and went out, what is done and what is left', () => {
    const outcome = outcomeOf([
      item('A/1', { isDone: true, isOpen: false }),
      item('A/2'),
      item('A/3', { isCommitted: false }),
      item('A/4', { isInside: false }),
      item('A/5', { isOpen: false }),
    ])
    expect(outcome).toMatchObject({
      inside: { refs: ['A/1', 'A/2', 'A/3', 'A/5'] },
      done: { refs: ['A/1'] },
      open: { refs: ['A/2', 'A/3'] },
      committed: { refs: ['A/1', 'A/2', 'A/4', 'A/5'] },
      later: { refs: ['A/3'] },
      left: { refs: ['A/4'] },
    })
  })
  it('adds exactly, and never unlike units', () => {
    const all = [
      item('A/1', { estimate: '0.1' }),
      item('A/2', { estimate: '0.2' }),
      item('A/3', { unit: 'points', estimate: '5' }),
      item('A/4', { estimate: null }),
    ]
    expect(sumOf(all)).toEqual({
      refs: ['A/1', 'A/2', 'A/3', 'A/4'],
      sums: [
        { unit: 'hours', sum: 0.3 },
        { unit: 'points', sum: 5 },
      ],
      unestimated: 1,
    })
  })
  it('committed and later less left is what is inside, whatever happened', () => {
    const any = fc.array(
      fc
        .record({ isInside: fc.boolean(), isCommitted: fc.boolean() })
        .filter((entry) => entry.isInside || entry.isCommitted),
    )
    fc.assert(
      fc.property(any, (all) => {
        const { inside, committed, later, left } = outcomeOf(
          all.map((parts, at) => item(`A/${at}`, parts)),
        )
        expect(committed.refs.length + later.refs.length - left.refs.length).toBe(
          inside.refs.length,
        )
      }),
    )
  })
})
