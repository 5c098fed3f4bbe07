import { certain } from '@bluestem/core/known'
import { type Calendar, isDay, wrongDayOff, type CalendarContent } from '@bluestem/core/calendar'
import { listed } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { invalid, notFound, type ProblemDetail, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { auditorOf } from '../audit/recorder.ts'
import { changeVersion, deleteVersion } from '../database/versioned.ts'

/** The calendar that serves wherever none is chosen. */
export const standardCalendar = ({ calendars }: World): Calendar =>
  certain(
    calendars.find((calendar) => calendar.standard),
    'standard calendar',
  )

/** The calendar a project works by: its own, or the workspace's. */
export const calendarOf = (world: World, project: string): Calendar =>
  world.calendars.find(
    (entry) => entry.id === world.projects.find((each) => each.id === project)?.calendar,
  ) ?? standardCalendar(world)

/** What is wrong with a calendar that is named: nothing, or that there is none. */
export const wrongCalendar = (world: World, id: string | null | undefined): ProblemDetail[] =>
  !id || world.calendars.some((calendar) => calendar.id === id)
    ? []
    : [
        {
          pointer: '/calendar',
          message: 'There is no such calendar.',
          expected: 'the identity of a calendar',
          found: id,
        },
      ]

/** The number of a calendar that is named by identity, or by none. */
export async function numberOfCalendar(
  database: Sequelize,
  identity: string | null,
): Promise<number | null> {
  if (identity === null) return null
  return (await modelsOf(database).calendar.findOne({ where: { identity } }))?.id ?? null
}

function judgeCalendar({ hours, daysOff }: CalendarContent): void {
  const wrong: ProblemDetail[] = []
  for (const [day, windows] of Object.entries(hours)) {
    windows.forEach(([from, to], index) => {
      const before = windows[index - 1]?.[1] ?? '00:00'
      if (from >= to || from < before)
        wrong.push({
          pointer: `/hours/${day}/${index}`,
          message:
            'Working hours of a day follow each other, each from an earlier to a later time.',
          expected: '["08:00", "12:00"], then ["13:00", "17:00"]',
          found: `${from} to ${to}`,
        })
    })
  }
  daysOff.forEach((entry, index) => {
    const message = wrongDayOff(entry)
    if (message !== undefined)
      wrong.push({
        pointer: `/daysOff/${index}/${isDay(entry.day) ? 'until' : 'day'}`,
        message,
        expected: 'a day such as 2026-12-25, until a later one of the same year',
        found: entry.until ?? entry.day,
      })
  })
  if (wrong.length > 0) throw invalid(wrong)
}

export async function makeCalendar(
  database: Sequelize,
  actor: ActorContext,
  given: CalendarContent,
): Promise<Calendar> {
  judgeCalendar(given)
  const id = newIdentity('ca')
  return await inTransaction(database, async () => {
    await modelsOf(database).calendar.create({ identity: id, ...given })
    await recorded(database, actor, 'made a calendar', id, { after: given })
    return { id, ...given, standard: false, version: 1 }
  })
}

export async function changeCalendar(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: CalendarContent,
  match: string,
): Promise<Calendar> {
  const calendar = calendarBy(actor.world, id)
  judgeCalendar(given)
  return await inTransaction(database, async () => {
    const version = await changeVersion(modelsOf(database).calendar, id, match, given)
    await recorded(database, actor, 'changed a calendar', id, {
      before: { title: calendar.title, hours: calendar.hours, daysOff: calendar.daysOff },
      after: given,
    })
    return { ...calendar, ...given, version }
  })
}

/** Deletes a calendar that nobody works by. */
export async function discardCalendar(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  match: string,
): Promise<void> {
  const { world } = actor
  const calendar = calendarBy(world, id)
  if (calendar.standard)
    throw refused(
      'The workspace’s own calendar stays: it holds wherever no other is named. Change its hours instead.',
    )
  const followers = [...world.projects, ...world.teams]
    .filter((entry) => entry.calendar === id)
    .map((entry) => entry.title)
  if (followers.length > 0)
    throw refused(
      `${listed(followers, 'and')} ${followers.length === 1 ? 'works' : 'work'} by “${calendar.title}”. Give them another calendar first.`,
    )
  await inTransaction(database, async () => {
    await deleteVersion(modelsOf(database).calendar, id, match)
    await recorded(database, actor, 'deleted a calendar', id, {
      before: { title: calendar.title, hours: calendar.hours, daysOff: calendar.daysOff },
    })
  })
}

function calendarBy(world: World, id: string): Calendar {
  const calendar = world.calendars.find((calendar) => calendar.id === id)
  if (!calendar) throw notFound('calendar of this identity')
  return calendar
}

const recorded = auditorOf('calendar')
