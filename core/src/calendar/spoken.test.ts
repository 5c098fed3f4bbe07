import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays, daysBetween, weekday } from './day.ts'
import { spokenDay } from './spoken.ts'
import { workingDaysBetween } from './working.ts'

/** A Wednesday. */
const today = '2026-11-25'
const working = {
  hours: { 1: [['08:00', '17:00']], 3: [['08:00', '17:00']] } as Record<string, [string, string][]>,
  daysOff: [],
}

describe('a day in words', () => {
  it.each([
    ['today', '2026-11-25'],
    ['Tomorrow', '2026-11-26'],
    [' yesterday ', '2026-11-24'],
    ['+1', '2026-11-26'],
    ['-3 days', '2026-11-22'],
    ['in 2 weeks', '2026-12-09'],
    ['3 weeks ago', '2026-11-04'],
    ['+3 months', '2027-02-25'],
    ['+10 working days', '2026-12-09'],
    ['-1 working day', '2026-11-24'],
    ['+0 working days', '2026-11-25'],
    ['friday', '2026-11-27'],
    ['next wed', '2026-12-02'],
    ['8 Dec', '2026-12-08'],
    ['8. December 2027', '2027-12-08'],
    ['2028-02-29', '2028-02-29'],
  ])('%s is %s', (words, day) => {
    expect(spokenDay(words, today)).toBe(day)
  })

  it.each(['', '5', 'soon', '31 Feb', '2026-02-29', 'in', '+', 'mo', '3 years', '+9999 months'])(
    '“%s” is none',
    (words) => {
      const found = spokenDay(words, words === '+9999 months' ? '9900-01-01' : today)
      expect(found).toBeUndefined()
    },
  )

  it('goes by the working days of a calendar, where there is one', () => {
    expect(spokenDay('+3 working days', today, working)).toBe('2026-12-07')
  })

  it('lies as far away as it says, and on the weekday it names', () => {
    const anyDay = fc.integer({ min: 0, max: 40_000 }).map((count) => addDays('1990-01-01', count))
    fc.assert(
      fc.property(anyDay, fc.integer({ min: -900, max: 900 }), (from, count) => {
        const signed = `${count < 0 ? '-' : '+'}${Math.abs(count)}`
        expect(daysBetween(from, spokenDay(`${signed} days`, from)!)).toBe(count)
        const later = spokenDay(`${signed} working days`, from, working)!
        // Backwards the two count the day they start on differently, so only forwards are they inverse.
        if (count > 0) expect(workingDaysBetween(from, later, working)).toBe(count)
        const friday = spokenDay('friday', from)!
        expect([
          weekday(friday),
          daysBetween(from, friday) > 0,
          daysBetween(from, friday) <= 7,
        ]).toEqual([5, true, true])
      }),
      { seed: 7 },
    )
  })
})
