import { minutesOf } from '../calendar/timeOfDay.ts'
import { addDays, type Day, isWorkingDay, weekday, type WorkingTime } from '../calendar/index.ts'

/** Days on which somebody does not work, the last included. */
export interface Absence {
  readonly start: Day
  readonly end: Day
}

export interface PersonCapacity {
  readonly person: string
  /** working days on which the person is there */
  readonly days: number
  /** working days on which the person is away */
  readonly away: number
  readonly hours: number
}

export interface Capacity {
  /** working days of the calendar within the span */
  readonly workingDays: number
  readonly people: readonly PersonCapacity[]
  /** days of all people together */
  readonly days: number
  readonly hours: number
}

/** The hours that are worked on a working day by the clock, whatever the clock does that day. */
export const hoursOn = (day: Day, { hours }: WorkingTime): number =>
  (hours[weekday(day)] ?? []).reduce(
    (sum, [from, to]) => sum + minutesOf(to) - minutesOf(from),
    0,
  ) / 60

/** The days from one to another, both included. */
function daysFrom(start: Day, end: Day): Day[] {
  const days: Day[] = []
  for (let day = start; day <= end; day = addDays(day, 1)) days.push(day)
  return days
}

/** How much can be worked in a span: by each person on the working days of the calendar on which they are not away. */
export function capacityOf(
  { start, end }: Absence,
  people: readonly { readonly person: string; readonly absences: readonly Absence[] }[],
  working: WorkingTime,
): Capacity {
  const workingDays = daysFrom(start, end).filter((day) => isWorkingDay(day, working))
  const each = people.map(({ person, absences }): PersonCapacity => {
    const isAway = (day: Day): boolean =>
      absences.some((absence) => absence.start <= day && day <= absence.end)
    const there = workingDays.filter((day) => !isAway(day))
    return {
      person,
      days: there.length,
      away: workingDays.length - there.length,
      hours: there.reduce((sum, day) => sum + hoursOn(day, working), 0),
    }
  })
  return {
    workingDays: workingDays.length,
    people: each,
    days: each.reduce((sum, personCapacity) => sum + personCapacity.days, 0),
    hours: each.reduce((sum, personCapacity) => sum + personCapacity.hours, 0),
  }
}
