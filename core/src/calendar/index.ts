export {
  addDays,
  addMonths,
  dayOf,
  daysBetween,
  endOfDay,
  firstDay,
  lastDay,
  instantOf,
  instantText,
  isDay,
  isInstantText,
  startOfDay,
  weekday,
  type Day,
  type Days,
  type Instant,
} from './day.ts'
export { countSteps, periodAround, periods, stepsOf, type Period } from './period.ts'
export {
  addWorkingDays,
  addWorkingMinutes,
  isWorkingDay,
  workingDaysBetween,
  workingMinutes,
  type Calendar,
  type WorkingTime,
} from './working.ts'
export { workedOver, type Worked } from './worked.ts'
export { type DayOff, isDayOff, titleOfDayOff, wrongDayOff } from './daysOff.ts'
export { spokenDay } from './spoken.ts'
export { CalendarContent, calendarContracts } from './schema.ts'
