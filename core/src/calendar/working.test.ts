import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays, instantOf, weekday } from './day.ts'
import { workedOver } from './worked.ts'
import cases from './vectors/working.json' with { type: 'json' }
import {
  addWorkingDays,
  addWorkingMinutes,
  isWorkingDay,
  workingDaysBetween,
  workingMinutes,
  type WorkingTime,
} from './working.ts'

interface Input {
  readonly fn: string
  readonly date?: string
  readonly n?: number
  readonly from?: string
  readonly to?: string
  readonly minutes?: number
  readonly zone?: string
  readonly windows?: WorkingTime['hours']
  readonly workingDays?: readonly number[]
  readonly holidays: readonly string[]
}

const timeOf = ({ windows, workingDays = [], holidays }: Input): WorkingTime => ({
  hours: windows ?? Object.fromEntries(workingDays.map((day) => [day, [['08:00', '16:00']]])),
  daysOff: holidays.map((day) => ({ day, title: 'off' })),
})

// Each case names its source: worked by hand or computed with general date libraries.
describe('working time, against cases computed elsewhere', () => {
  it.each(
    (cases as { name: string; input: Input; expected: unknown }[]).map(
      (entry) => [entry.name, entry] as const,
    ),
  )('%s', (_, { input, expected }) => {
    const working = timeOf(input)
    const found = {
      addWorkingDays: () => addWorkingDays(input.date!, input.n!, working),
      workingDaysBetween: () => workingDaysBetween(input.from!, input.to!, working),
      workingMinutes: () =>
        workingMinutes(instantOf(input.from!), instantOf(input.to!), working, input.zone!),
      addWorkingMinutes: () =>
        new Date(addWorkingMinutes(instantOf(input.from!), input.minutes!, working, input.zone!)!)
          .toISOString()
          .replace('.000Z', 'Z'),
    }[input.fn]!()
    // Where two readings are common, the case names both: a day on which nothing is added stays.
    expect(found).toEqual((expected as { stays?: string }).stays ?? expected)
  })
})

const week: WorkingTime = {
  hours: {
    1: [
      ['08:00', '12:00'],
      ['13:00', '17:00'],
    ],
    2: [['08:00', '17:00']],
    5: [['22:00', '24:00']],
  },
  daysOff: [{ day: '2026-03-02', title: 'Founders’ day' }],
}

describe('working time', () => {
  it('added and measured again is the same, in any zone and over changes of clocks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2026, 11, 1) }),
        fc.integer({ min: 1, max: 6000 }),
        fc.constantFrom('UTC', 'Europe/Zurich', 'America/New_York'),
        (from, minutes, zone) => {
          const to = addWorkingMinutes(from, minutes, week, zone)!
          expect(workingMinutes(from, to, week, zone)).toBeCloseTo(minutes, 6)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('of a day off is none, and without any working day it never gets there', () => {
    expect([
      isWorkingDay('2026-03-02', week),
      isWorkingDay('2026-03-03', week),
      isWorkingDay('2026-03-04', week),
    ]).toEqual([false, true, false])
    expect(addWorkingMinutes(0, 1, { hours: {}, daysOff: [] }, 'UTC')).toBeNull()
    expect(addWorkingMinutes(5, 0, week, 'UTC')).toBe(5)
  })

  it('counts working days as stepping through them does', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 0, max: 60 }),
        (start, length) => {
          const [from, to] = [addDays('2026-01-01', start), addDays('2026-01-01', start + length)]
          const brute = Array.from({ length }, (_, index) => addDays(from, index + 1)).filter(
            (day) => [1, 2, 5].includes(weekday(day)) && day !== '2026-03-02',
          ).length
          expect([workingDaysBetween(from, to, week), workingDaysBetween(to, from, week)]).toEqual([
            brute,
            0 - brute,
          ])
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('working time added up', () => {
  it('tells between any two instants what is counted day by day', () => {
    const zone = 'Europe/Zurich'
    const { from, before, all } = workedOver('2026-01-01', '2026-12-31', week, zone)
    const until = (instant: number): number => {
      const place = from.findLastIndex((begins) => begins <= instant)
      const lasts = (before[place + 1] ?? all) - (before[place] ?? 0)
      return place < 0 ? 0 : before[place]! + Math.min(instant - from[place]!, lasts)
    }
    const moment = fc.integer({
      min: instantOf('2026-01-02T00:00:00Z'),
      max: instantOf('2026-12-30T00:00:00Z'),
    })
    fc.assert(
      fc.property(moment, moment, (number, other) => {
        const [first, last] = [Math.min(number, other), Math.max(number, other)]
        expect((until(last) - until(first)) / 60_000).toBeCloseTo(
          workingMinutes(first, last, week, zone),
          6,
        )
      }),
    )
  })
})
