import { valueFor } from '@bluestem/core/known'
import { addDays, type Day, dayOf, startOfDay } from '@bluestem/core/calendar'
import { spansOf } from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { type Life, zone } from './life.ts'
import { people } from './people.ts'
import { type DemoSpan, plannedInto } from './planning.ts'

interface DemoRelease extends DemoSpan {
  readonly title: string
  readonly projects: readonly string[]
  readonly end: Day
  readonly goal: string
}

const hour = 3_600_000
const weeks = 13
/** How many releases of each rule are over before this season's, and how many are planned. */
const [over, planned] = [4, 2]

/** The rules by which releases come out: the apps every season, the piers once their works are done; a season is of both. */
const rules = [
  {
    id: 're_fares',
    title: 'Fares',
    projects: ['FARE'],
    daysIn: 60,
    goal: 'Machines, app and timetable say the same prices',
  },
  {
    id: 're_piers',
    title: 'Pier works',
    projects: ['PIER'],
    daysIn: 37,
    goal: 'Every pier that was closed for works is open again',
  },
] as const

/** A release with the moments it is started and comes out at. */
const dated = (entry: Omit<DemoRelease, 'startedAt' | 'finishedAt'>): DemoRelease => ({
  ...entry,
  startedAt: startOfDay(entry.start, zone) + 9 * hour,
  finishedAt: startOfDay(entry.end, zone) + 15 * hour,
})

/** The releases of the demo by rule, and the one that two projects bring out together. */
function releasesOf(now: Date): DemoRelease[] {
  const today = dayOf(now.getTime(), zone)
  const own = rules.flatMap(({ id, title, projects, goal, daysIn }) => {
    const first = addDays(today, -daysIn - over * weeks * 7)
    const series = { name: `${title} {n}`, number: 1, first, weeks, count: over + 1 + planned }
    return spansOf(series).map((span, place) =>
      dated({ ...span, id: `${id}_${place + 1}`, projects, goal }),
    )
  })
  return [...own, shared(today)]
}

const shared = (today: Day): DemoRelease =>
  dated({
    id: 're_season',
    title: 'Summer season',
    projects: ['FARE', 'PIER'],
    start: addDays(today, -14),
    end: addDays(today, 140),
    goal: 'Step-free boarding that one can book',
  })

/** Keeps the releases with the projects they belong to. */
export async function keepReleases(database: Sequelize, now: Date): Promise<void> {
  const { project, release, releaseProject } = modelsOf(database)
  const numberOf = new Map((await project.findAll()).map(({ code, id }) => [code, id]))
  for (const demoRelease of releasesOf(now)) {
    const made = await release.create({
      identity: demoRelease.id,
      title: demoRelease.title,
      startDate: demoRelease.start,
      endDate: demoRelease.end,
      goal: demoRelease.goal,
      startedAt: demoRelease.startedAt < now.getTime() ? new Date(demoRelease.startedAt) : null,
      finishedAt: demoRelease.finishedAt < now.getTime() ? new Date(demoRelease.finishedAt) : null,
    })
    await releaseProject.bulkCreate(
      demoRelease.projects.map((code) => ({
        releaseId: made.id,
        projectId: valueFor(numberOf, code),
      })),
    )
  }
}

/** Who plans the releases of a project. */
const plannerOf = (code: string): number =>
  people.findIndex(({ projects }) => projects.includes(code)) + 1

/** Every so many items of a project go into its releases; of those not begun yet, some into the one of two projects. */
const [everySecond, everyTenth] = [2, 8]

/** Plans lives of the piers and of the fares into releases; others stay as they are. */
export function releasePlanner(now: Date): (life: Life) => Life {
  const all = releasesOf(now)
  const both = all.filter(({ projects }) => projects.length > 1)
  const ownOf = (code: string): DemoRelease[] =>
    all.filter(({ projects }) => projects.length === 1 && projects[0] === code)
  const own = new Map(['FARE', 'PIER'].map((code) => [code, ownOf(code)]))
  return (life) => {
    const { project, type, number } = life
    const isPlanned = project === 'FARE' ? type === 'change' : project === 'PIER' && type === 'job'
    if (!isPlanned || number % everySecond !== 0) return life
    const spans = number % everyTenth === 0 ? both : valueFor(own, project)
    return plannedInto(life, now, {
      property: 'release',
      spans,
      by: plannerOf(project),
      ahead: 20,
      anchor: 'end',
    })
  }
}
