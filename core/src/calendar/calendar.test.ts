import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addDays,
  addMonths,
  dayOf,
  daysBetween,
  endOfDay,
  instantOf,
  isDay,
  isInstantText,
  startOfDay,
  weekday,
} from './day.ts'
import { countSteps, periodAround, periods, stepsOf } from './period.ts'

describe('days in a zone (facts of the IANA time zone database, common practice)', () => {
  it.each([
    ['Europe/Zurich', '2026-03-29', '2026-03-28T23:00:00Z', 23],
    ['Europe/Zurich', '2026-10-25', '2026-10-24T22:00:00Z', 25],
    ['UTC', '2026-03-29', '2026-03-29T00:00:00Z', 24],
    // Where clocks jump over midnight the day begins at the first instant there is.
    ['America/Santiago', '2026-09-06', '2026-09-06T04:00:00Z', 23],
  ])('%s %s begins at %s and lasts %i hours', (zone, day, start, hours) => {
    expect(startOfDay(day, zone)).toBe(instantOf(start))
    expect((endOfDay(day, zone) + 1 - startOfDay(day, zone)) / 3_600_000).toBe(hours)
    expect([dayOf(startOfDay(day, zone), zone), dayOf(endOfDay(day, zone), zone)]).toEqual([
      day,
      day,
    ])
  })

  it.each([
    ['2024-02-29', true],
    ['2025-02-29', false],
    ['2026-13-01', false],
    ['2026-3-1', false],
    ['0000-12-31', false],
    ['0001-01-01', true],
    ['9999-12-31', true],
  ])('%s is a day: %s', (text, expected) => {
    expect(isDay(text)).toBe(expected)
  })
  it.each([
    ['2026-03-01T08:00:00Z', true],
    ['2026-03-01T24:00:00Z', false],
    ['2026-03-01T08:00:00+01:00', false],
  ])('%s is a moment in UTC: %s', (text, expected) => {
    expect(isInstantText(text)).toBe(expected)
  })
})

describe('periods (ISO 8601)', () => {
  it.each([
    ['week', '2026-11-25', 0, '2026-11-23', '2026-11-29'],
    ['week', '2027-01-01', 0, '2026-12-28', '2027-01-03'],
    ['week', '2026-11-25', -1, '2026-11-16', '2026-11-22'],
    ['month', '2026-03-31', -1, '2026-02-01', '2026-02-28'],
    ['month', '2024-01-31', 1, '2024-02-01', '2024-02-29'],
    ['quarter', '2026-11-25', 0, '2026-10-01', '2026-12-31'],
    ['quarter', '2026-11-25', 1, '2027-01-01', '2027-03-31'],
    ['year', '2026-02-03', -1, '2025-01-01', '2025-12-31'],
    ['day', '2026-02-28', 1, '2026-03-01', '2026-03-01'],
  ] as const)('the %s of %s, offset %i, is %s to %s', (period, day, offset, from, to) => {
    expect(periodAround(period, day, offset)).toEqual({ from, to })
  })

  it('cut a span into steps that begin where their period does', () => {
    expect(stepsOf('week', { from: '2026-11-18', to: '2026-12-01' })).toEqual([
      '2026-11-16',
      '2026-11-23',
      '2026-11-30',
    ])
    expect(stepsOf('month', { from: '2026-01-31', to: '2026-03-01' })).toEqual([
      '2026-01-01',
      '2026-02-01',
      '2026-03-01',
    ])
  })

  it('are counted without being laid out, to the last day there is', () => {
    expect(
      periods.map((period) => countSteps(period, { from: '0001-01-01', to: '9999-12-31' })),
    ).toEqual([3_652_059, 521_723, 119_988, 39_996, 9999])
    expect(stepsOf('day', { from: '9999-12-30', to: '9999-12-31' })).toEqual([
      '9999-12-30',
      '9999-12-31',
    ])
    expect(stepsOf('month', { from: '2026-03-02', to: '2026-03-01' })).toEqual([])
    fc.assert(
      fc.property(
        fc.constantFrom(...periods),
        fc.integer({ min: -3000, max: 3000 }),
        fc.integer({ min: 0, max: 900 }),
        (period, start, length) => {
          const span = {
            from: addDays('2026-01-01', start),
            to: addDays('2026-01-01', start + length),
          }
          let steps = 0
          for (
            let { from } = periodAround(period, span.from);
            from <= span.to;
            from = addDays(periodAround(period, from).to, 1)
          )
            steps += 1
          expect(countSteps(period, span)).toBe(steps)
        },
      ),
      { numRuns: 200 },
    )
  })

  it('know weekdays, months and distances', () => {
    expect([
      weekday('2026-11-25'),
      weekday('2026-11-29'),
      addMonths('2024-01-31', 1),
      daysBetween('2026-02-27', '2026-03-02'),
    ]).toEqual([3, 7, '2024-02-29', 3])
  })
})
