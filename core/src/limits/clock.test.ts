import { describe, expect, it } from 'vitest'
import type { TimeLimit } from '../definitions/document/rules.ts'
import { allowanceOf, clockOf, type ClockState } from './clock.ts'

const at = (text: string): number => Date.parse(`2026-03-${text}:00Z`)
const office = {
  hours: {
    1: [['08:00', '16:00']],
    2: [['08:00', '16:00']],
    3: [['08:00', '16:00']],
    4: [['08:00', '16:00']],
    5: [['08:00', '16:00']],
  } as const,
  daysOff: [],
}

const limit: TimeLimit = {
  order: 'a',
  title: 'Mend',
  description: '',
  what: 'resolve',
  allowances: [
    { urgency: 1, minutes: 240 },
    { label: 'la_wet', minutes: 300 },
    { priority: 'pi_late', minutes: 9600 },
    { minutes: 960 },
  ],
  starts: ['st_open'],
  stops: ['st_parts'],
  ends: ['st_off'],
  warnAt: 75,
}

const plain = { urgency: 3, priority: null, labels: [] }
const state = (from: string, status: string, onHold = false): ClockState => ({
  from: at(from),
  status,
  onHold,
})
const clock = (
  states: ClockState[],
  now: string,
  allowed: Parameters<typeof clockOf>[2] = plain,
  of = limit,
) => {
  const found = clockOf(of, states, allowed, at(now), office, 'UTC')
  return (
    found && [
      found.state,
      found.used,
      found.warning,
      found.runsOut === null ? null : new Date(found.runsOut).toISOString().slice(5, 16),
    ]
  )
}

describe('the allowance of a time limit', () => {
  it.each([
    [{ ...plain, urgency: 1 }, 240],
    [{ ...plain, labels: ['la_wet'] }, 300],
    [{ ...plain, priority: 'pi_late' }, 9600],
    [plain, 960],
    [{ urgency: null, priority: null, labels: [] }, 960],
  ])('for %j is %i minutes', (allowed, minutes) => {
    expect(allowanceOf(limit, allowed)).toBe(minutes)
  })
  it('is none where nothing fits', () => {
    expect(
      clock([state('02T09:00', 'st_open')], '02T10:00', plain, {
        ...limit,
        allowances: [{ urgency: 1, minutes: 5 }],
      }),
    ).toBeNull()
  })
})

// Monday 2 March 2026; office hours are 8 to 16, so a working day has 480 minutes (worked by hand).
describe('the clock of a time limit', () => {
  it.each<[string, ClockState[], string, unknown[]]>([
    [
      'runs in working time',
      [state('02T09:00', 'st_open')],
      '02T11:00',
      ['running', 120, false, '03-04T09:00'],
    ],
    [
      'does not run at night or at weekends',
      [state('06T15:00', 'st_open')],
      '09T09:00',
      ['running', 120, false, '03-10T15:00'],
    ],
    [
      'warns when its share is used',
      [state('02T08:00', 'st_open')],
      '03T12:00',
      ['running', 720, true, '03-03T16:00'],
    ],
    ['has passed', [state('02T08:00', 'st_open')], '04T09:00', ['passed', 1020, true, null]],
    [
      'stands still while it waits',
      [state('02T08:00', 'st_open'), state('02T10:00', 'st_parts')],
      '05T10:00',
      ['standing still', 120, false, null],
    ],
    [
      'stands still on hold, and goes on',
      [
        state('02T08:00', 'st_open'),
        state('02T10:00', 'st_open', true),
        state('03T10:00', 'st_open'),
      ],
      '03T11:00',
      ['running', 180, false, '03-04T16:00'],
    ],
    [
      'ends when the item is done, in time',
      [state('02T08:00', 'st_open'), state('02T10:00', 'st_off')],
      '20T10:00',
      ['met', 120, false, null],
    ],
    [
      'ends too late',
      [state('02T08:00', 'st_open'), state('05T08:00', 'st_off')],
      '20T10:00',
      ['missed', 1440, false, null],
    ],
    ['has not begun', [state('02T08:00', 'st_new')], '05T10:00', ['not begun', 0, false, null]],
    [
      'begins when the item enters',
      [state('02T08:00', 'st_new'), state('02T12:00', 'st_open')],
      '02T13:00',
      ['running', 60, false, '03-04T12:00'],
    ],
    [
      'ends once, whatever comes later',
      [state('02T08:00', 'st_open'), state('02T09:00', 'st_off'), state('02T10:00', 'st_open')],
      '05T10:00',
      ['met', 60, false, null],
    ],
  ])('%s', (_, states, now, expected) => {
    expect(clock(states, now)).toEqual(expected)
  })
  it('starts at once where no status is named', () => {
    const { starts: _, ...open } = limit
    expect(clock([state('02T08:00', 'st_new')], '02T09:00', plain, open)).toEqual([
      'running',
      60,
      false,
      '03-03T16:00',
    ])
  })
})
