import { addDays, type Day, dayOf, startOfDay, weekday } from '@bluestem/core/calendar'
import { spansOf } from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { definitions } from './definitions.ts'
import { type Act, day, type Life, zone } from './life.ts'
import { people } from './people.ts'

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

interface DemoIteration {
  readonly id: string
  readonly title: string
  readonly start: Day
  readonly end: Day
  readonly startedAt: number
  readonly finishedAt: number
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
  for (const [place, one] of iterationsOf(now).entries())
    await iteration.create({
      identity: one.id,
      title: one.title,
      startDate: one.start,
      endDate: one.end,
      goal: place > over ? '' : goals[place % goals.length]!,
      startedAt: one.startedAt < now.getTime() ? new Date(one.startedAt) : null,
      finishedAt: one.finishedAt < now.getTime() ? new Date(one.finishedAt) : null,
    })
}

/** Gives the iterations to the digital crew, and tells who is away. */
export async function keepAbsences(database: Sequelize, now: Date): Promise<void> {
  const { absence, iteration, team } = modelsOf(database)
  const crew = await team.findOne({ where: { identity: 'tm_apps' } })
  await iteration.update({ teamId: crew!.id }, { where: {} })
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

const phaseOf = (act: Act): string | undefined => {
  const status = act.edit?.['status']
  return typeof status === 'string' ? definitions.statuses[status]!.phase : undefined
}

/** Who plans the iterations of the digital crew. */
const planner = people.findIndex(({ projects }) => projects.includes('FARE')) + 1

/** In how many iterations an item is taken along before it goes back to the backlog. */
const mostIterations = 3

/** When work on a life begins, and when it ends; what is not begun yet is planned for the next iteration now and then. */
function spanOf(
  { acts, number }: Life,
  now: Date,
): { readonly begins?: number; readonly ends: number } {
  const momentOf = (...phases: readonly string[]): number | undefined =>
    acts.find((act) => phases.includes(phaseOf(act) ?? ''))?.at
  const begins =
    momentOf('active') ?? (number % 4 === 0 ? now.getTime() + weeks * 7 * day : undefined)
  const ends = Math.min(momentOf('done', 'dropped') ?? Infinity, now.getTime())
  return { ends, ...(begins === undefined ? {} : { begins }) }
}

/** When something is planned: before the iteration starts, or as work on it begins, which is late. */
function takenIn({ number, made }: Life, { startedAt }: DemoIteration, begins: number): number {
  const isLate = number % 5 === 0 || made.at > startedAt - day
  return isLate ? Math.max(made.at + 60_000, begins - 5 * 60_000) : startedAt - 20 * hour
}

/**
 * A life of the digital crew with the iterations it was planned into: most are committed before the start of the one in which work on
 * them begins, every fifth comes in late, and what is open at the end goes into the next.
 */
export function withIterations(life: Life, now: Date): Life {
  if (life.project !== 'FARE' || !['change', 'defect'].includes(life.type)) return life
  const { begins, ends } = spanOf(life, now)
  if (begins === undefined) return life
  const all = iterationsOf(now)
  const first = all.findLastIndex(({ start }) => startOfDay(start, zone) <= begins)
  if (first < 0) return life
  const passed = all
    .slice(first, first + mostIterations)
    .filter(({ finishedAt }) => finishedAt < ends)
  const acts = [
    planning(takenIn(life, all[first]!, begins), all[first]!.id),
    ...passed.map(({ finishedAt }, index) => {
      const isLast = index + 1 === mostIterations
      return planning(finishedAt, isLast ? null : all[first + index + 1]!.id)
    }),
  ]
  return { ...life, acts: [...life.acts, ...acts].toSorted((a, b) => a.at - b.at) }
}

const planning = (at: number, iteration: string | null): Act => ({
  at,
  by: planner,
  edit: { iteration },
})
