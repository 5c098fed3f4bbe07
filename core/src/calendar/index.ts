export { addDays, addMonths, dayOf, daysBetween, endOfDay, instantOf, instantText, isDay, isInstantText, startOfDay, weekday, type Day, type Days, type Instant } from './day.ts'
export { periodAround, periods, stepsOf, type Period } from './period.ts'
export { addWorkingDays, addWorkingMinutes, isWorkingDay, workingDaysBetween, workingMinutes, type Calendar, type WorkingTime } from './working.ts'
