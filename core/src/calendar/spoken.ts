import { addDays, addMonths, type Day, isDay, weekday } from './day.ts'
import { addWorkingDays, type WorkingTime } from './working.ts'

const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']
const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
const near: Readonly<Record<string, number>> = { yesterday: -1, today: 0, tomorrow: 1 }

/** Working days where no calendar says otherwise: Monday to Friday (common practice). */
const officeWeek: WorkingTime = {
  hours: Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, [['00:00', '24:00']]])),
  daysOff: [],
}

/** A day and a month, with the year where it is not the one of today: `8 Dec`, `8 December 2027`. */
function dated(text: string, today: Day): Day | undefined {
  const [, day, name, year = today.slice(0, 4)] =
    /^(\d{1,2})\.? ?([a-z]{3,9})\.?(?: (\d{4}))?$/.exec(text) ?? []
  const month = months.findIndex((month) => name?.startsWith(month))
  if (day === undefined || month < 0) return undefined
  const found = `${year}-${String(month + 1).padStart(2, '0')}-${day.padStart(2, '0')}`
  return isDay(found) ? found : undefined
}

/** A weekday: the next of its name, never today. */
function onWeekday(text: string, today: Day): Day | undefined {
  const name = text.replace(/^(next|on) /, '')
  if (name.length < 3) return undefined
  const at = weekdays.findIndex((weekday) => weekday.startsWith(name))
  return at < 0 ? undefined : addDays(today, ((at + 1 - weekday(today) + 6) % 7) + 1)
}

/** So many days, working days, weeks or months from today: `+10 working days`, `in 3 weeks`, `2 months ago`, `-5`. */
function counted(text: string, today: Day, working: WorkingTime): Day | undefined {
  const [, sign = '', count, unit = 'day', ago] =
    /^(\+|-|in )? ?(\d{1,4}) ?(working day|workday|day|week|month)?s?( ago)?$/.exec(text) ?? []
  // A bare number names no day.
  if (count === undefined || (sign === '' && ago === undefined)) return undefined
  const steps = Number(count) * (sign === '-' || ago !== undefined ? -1 : 1)
  if (unit === 'month') return addMonths(today, steps)
  if (unit === 'day' || unit === 'week') return addDays(today, unit === 'week' ? steps * 7 : steps)
  return steps === 0 ? today : addWorkingDays(today, steps, working)
}

/**
 * The day that somebody writes in words, seen from a day.
 *
 * @param working the days on which work is done, for *working days*; Monday to Friday where it is left out
 * @returns undefined where the words name no day between 0001-01-01 and 9999-12-31
 */
export function spokenDay(text: string, today: Day, working = officeWeek): Day | undefined {
  const words = text.trim().toLowerCase().replaceAll(/\s+/g, ' ')
  const days = near[words]
  const found =
    days !== undefined
      ? addDays(today, days)
      : isDay(words)
        ? words
        : (counted(words, today, working) ?? dated(words, today) ?? onWeekday(words, today))
  return found !== undefined && isDay(found) ? found : undefined
}
