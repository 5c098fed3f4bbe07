import { elementAt } from '@bluestem/core/known'
import { addDays, type Day, dayOf, startOfDay, weekday } from '@bluestem/core/calendar'
import { spansOf } from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { type Life, zone } from './life.ts'
import { people } from './people.ts'
import { type DemoSpan, plannedInto } from './planning.ts'

/** Iterations of the digital crew: how many are over, one that runs, and how many are planned. */
const [over, planned] = [39, 3]
const weeks = 2
const goals = [
  'Fewer wrong fares at the machines',
  'The summer timetable in the app',
  'Tickets that can be given back',
  'Machines that start by themselves after a power cut',
  'One price for families',
]

interface DemoIteration extends DemoSpan {
  readonly title: string
  readonly end: Day
}

const hour = 3_600_000
const idOf = (place: number): string => `it_apps_${place + 1}`

/** The iterations of the demo: the one that runs begins on the Monday of this week. */
function iterationsOf(now: Date): DemoIteration[] {
  const today = dayOf(now.getTime(), zone)
  const monday = addDays(today, 1 - weekday(today))
  const first = addDays(monday, -over * weeks * 7)
  const series = { name: 'Apps {n}', number: 1, first, weeks, count: over + 1 + planned }
  return spansOf(series).map((span, place) => ({
    ...span,
    id: idOf(place),
    startedAt: startOfDay(span.start, zone) + 8.5 * hour,
    // It is finished on the Friday of its last week.
    finishedAt: startOfDay(addDays(span.end, -2), zone) + 16 * hour,
  }))
}

/** Keeps the iterations; their team comes with the teams. */
export async function keepIterations(database: Sequelize, now: Date): Promise<void> {
  const { iteration } = modelsOf(database)
  for (const [place, entry] of iterationsOf(now).entries())
    await iteration.create({
      identity: entry.id,
      title: entry.title,
      startDate: entry.start,
      endDate: entry.end,
      goal: place > over ? '' : elementAt(goals, place % goals.length),
      startedAt: entry.startedAt < now.getTime() ? new Date(entry.startedAt) : null,
      finishedAt: entry.finishedAt < now.getTime() ? new Date(entry.finishedAt) : null,
    })
}

/** Gives the iterations to the digital crew, and tells who is away. */
export async function keepAbsences(database: Sequelize, now: Date): Promise<void> {
  const { absence, iteration, team } = modelsOf(database)
  const crew = await team.findOne({ where: { identity: 'tm_apps' }, rejectOnEmpty: true })
  await iteration.update({ teamId: crew.id }, { where: {} })
  const today = dayOf(now.getTime(), zone)
  const away = people.flatMap((person, index) => {
    const personId = index + 1
    if (person.projects.length === 0) return []
    const holiday = addDays(today, -150 + ((index * 11) % 70))
    const leave = addDays(today, ((index * 5) % 40) - 2)
    return [
      { personId, startDate: holiday, endDate: addDays(holiday, 13), note: 'Holidays' },
      ...(index % 3 === 0
        ? [{ personId, startDate: leave, endDate: addDays(leave, 2), note: 'Course' }]
        : []),
    ]
  })
  await absence.bulkCreate(away)
}

/** Who plans the iterations of the digital crew. */
const planner = people.findIndex(({ projects }) => projects.includes('FARE')) + 1

/** Plans the lives of the digital crew into its iterations; others stay as they are. */
export function iterationPlanner(now: Date): (life: Life) => Life {
  const spans = iterationsOf(now)
  const planning = {
    property: 'iteration',
    spans,
    by: planner,
    ahead: weeks * 7,
    anchor: 'beginning',
  } as const
  return (life) =>
    life.project === 'FARE' && ['change', 'defect'].includes(life.type)
      ? plannedInto(life, now, planning)
      : life
}
