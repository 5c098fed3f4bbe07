import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays } from './day.ts'
import { type DayOff, daysIn, isDayOff, titleOfDayOff, wrongDayOff } from './daysOff.ts'
import { addWorkingDays } from './working.ts'

const christmas: DayOff = {
  day: '2026-12-24',
  until: '2027-01-02',
  yearly: true,
  title: 'Yard closed',
}

describe('days off', () => {
  it.each<[string, readonly DayOff[], boolean]>([
    ['2026-12-25', [{ day: '2026-12-25', title: '' }], true],
    ['2027-12-25', [{ day: '2026-12-25', title: '' }], false],
    ['2027-12-25', [{ day: '2026-12-25', yearly: true, title: '' }], true],
    ['2025-12-25', [{ day: '2026-12-25', yearly: true, title: '' }], true],
    ['2026-08-07', [{ day: '2026-08-03', until: '2026-08-14', title: '' }], true],
    ['2026-08-15', [{ day: '2026-08-03', until: '2026-08-14', title: '' }], false],
    // Over the turn of the year, in any year.
    ['2030-12-31', [christmas], true],
    ['2031-01-02', [christmas], true],
    ['2031-01-03', [christmas], false],
    // Only a leap year has the day.
    ['2028-02-29', [{ day: '2024-02-29', yearly: true, title: '' }], true],
    ['2027-03-01', [{ day: '2024-02-29', yearly: true, title: '' }], false],
  ])('%s among %j: %s', (day, daysOff, off) => {
    expect(isDayOff(day, daysOff)).toBe(off)
  })

  it('are told by the title of the entry that makes them', () => {
    const daysOff = [{ day: '2026-12-25', title: 'Midwinter' }, christmas]
    expect(
      ['2026-12-25', '2029-12-27', '2026-06-01'].map((day) => titleOfDayOff(day, daysOff)),
    ).toEqual(['Midwinter', 'Yard closed', undefined])
  })

  it.each<[Omit<DayOff, 'title'>, RegExp | undefined]>([
    [{ day: '2026-12-24' }, undefined],
    [{ day: '2026-12-24', until: '2026-12-24' }, undefined],
    [{ day: '2026-01-01', until: '2027-01-01' }, undefined],
    [{ day: '2026-01-01', until: '2027-01-02' }, /more than a year/],
    [{ day: '2026-12-24', until: '2026-12-20' }, /2026-12-20 lies before 2026-12-24/],
    [{ day: '2026-02-30' }, /“2026-02-30” is no day/],
    [{ day: '2026-02-20', until: 'soon' }, /“soon” is no day/],
  ])('%j is judged: %s', (entry, wrong) => {
    const found = wrongDayOff({ ...entry, title: '' })
    if (wrong) expect(found).toMatch(wrong)
    else expect(found).toBeUndefined()
  })

  it('hold the same days whether a span is written once or day by day', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4000 }),
        fc.integer({ min: 0, max: 40 }),
        fc.boolean(),
        (start, length, yearly) => {
          const day = addDays('2020-01-01', start)
          const span: DayOff = {
            day,
            until: addDays(day, length),
            title: '',
            ...(yearly ? { yearly } : {}),
          }
          const single = daysIn(span).map((text): DayOff => ({
            day: text,
            title: '',
            ...(yearly ? { yearly } : {}),
          }))
          for (let at = -3; at <= length + 370; at += 1) {
            const looked = addDays(day, at)
            expect(isDayOff(looked, [span])).toBe(isDayOff(looked, single))
          }
        },
      ),
      { numRuns: 30 },
    )
  })

  it('are no working days: a fortnight off moves a date by a fortnight', () => {
    const hours = Object.fromEntries(
      [1, 2, 3, 4, 5].map((day) => [day, [['08:00', '16:00'] as const]]),
    )
    const open = { hours, daysOff: [] }
    const closed = {
      hours,
      daysOff: [{ day: '2026-08-03', until: '2026-08-14', yearly: true as const, title: '' }],
    }
    expect(addWorkingDays('2026-07-31', 1, open)).toBe('2026-08-03')
    expect(addWorkingDays('2026-07-31', 1, closed)).toBe('2026-08-17')
    // The same days of another year: the Monday before them is worked.
    expect(addWorkingDays('2027-07-30', 1, closed)).toBe('2027-08-02')
    expect(addWorkingDays('2027-07-30', 2, closed)).toBe('2027-08-16')
  })
})
