import { certain, elementAt, entryOf } from '@bluestem/core/known'
import { walk } from './walk.ts'
import { given } from './given.ts'
import { addDays, dayOf, startOfDay, weekday } from '@bluestem/core/calendar'
import { flowOf } from '@bluestem/core/definitions'
import { Chance } from './chance.ts'
import { definitions } from './definitions.ts'
import { iterationPlanner } from './iterations.ts'
import { releasePlanner } from './releases.ts'
import { projects } from './projectList.ts'
import { day, type Life, type Making, tier, zone } from './life.ts'
import { people } from './people.ts'
import { titleFor } from './titles.ts'

/** How many days of history the demo has. */
export const span = 548

const shares: readonly (readonly [string, number])[] = [
  ['YARD', 40],
  ['PIER', 20],
  ['CREW', 10],
  ['FARE', 18],
  ['SAFE', 12],
]
const typeShares: Record<string, readonly (readonly [string, number])[]> = {
  YARD: [
    ['defect', 50],
    ['job', 26],
    ['check', 21],
    ['package', 2.4],
    ['programme', 0.3],
  ],
  PIER: [
    ['defect', 46],
    ['job', 34],
    ['check', 17],
    ['package', 2.6],
  ],
  CREW: [
    ['job', 70],
    ['check', 26],
    ['package', 4],
  ],
  FARE: [
    ['change', 56],
    ['defect', 34],
    ['check', 7],
    ['package', 3],
  ],
  SAFE: [
    ['finding', 58],
    ['inspection', 20],
    ['check', 20],
    ['package', 2],
  ],
}

/** Work comes in before the summer season, and hardly between the years. */
const season = [0.8, 0.9, 1.2, 1.6, 1.9, 1.5, 1.0, 0.9, 1.0, 0.9, 1.0, 0.6]

/** How many items each day brings, so that they add up to the number asked for. */
function arrivals(today: string, items: number): { day: string; count: number }[] {
  const days = Array.from({ length: span }, (_, index) => addDays(today, index - span + 1))
  const weights = days.map(
    (day) => elementAt(season, Number(day.slice(5, 7)) - 1) * (weekday(day) > 5 ? 0.25 : 1),
  )
  const all = weights.reduce((sum, weight) => sum + weight, 0)
  let [given, due] = [0, 0]
  return days.map((text, index) => {
    due += (items * elementAt(weights, index)) / all
    const count = index === days.length - 1 ? items - given : Math.floor(due) - given
    given += count
    return { day: text, count }
  })
}

/**
 * The lives of so many items, oldest first. The same for the same number and day: chance is seeded.
 *
 * @param now the moment the demo ends at
 */
export function* lives(now: Date, items: number): Generator<Life> {
  const chance = new Chance(20_261)
  const today = dayOf(now.getTime(), zone)
  const numbers = new Map<string, number>()
  const parents = new Map<string, string[]>()
  const [intoIterations, intoReleases] = [iterationPlanner(now), releasePlanner(now)]
  for (const { day: date, count } of arrivals(today, items)) {
    const start = startOfDay(date, zone)
    const instants = Array.from(
      { length: count },
      () => start + Math.floor((6.5 + chance.next() * 11) * 3_600_000),
    )
      .map((at) => Math.min(at, now.getTime() - 60_000 * (1 + Math.floor(chance.next() * 300))))
      .sort((a, b) => a - b)
    for (const at of instants) {
      const project = chance.weighted(shares)
      const type = chance.weighted(entryOf(typeShares, project))
      const number = (numbers.get(project) ?? 0) + 1
      numbers.set(project, number)
      const life = lifeOf(chance, {
        project,
        type,
        number,
        at,
        now: now.getTime(),
        parent: parentFor(chance, parents, project, type, number),
        flow: flowOf(definitions, entryOf(definitions.projects, projectId(project)), `ty_${type}`),
        today,
      })
      yield thrownAway(intoReleases(intoIterations(life)), now)
    }
  }
}

/** Some small items of the last weeks were made by mistake; they lie in the bin. */
function thrownAway(life: Life, now: Date): Life {
  const { made, acts, number, type } = life
  const at = made.at + 2 * day
  const isMistake = tier(type) === 0 && number % 9 === 0 && made.at > now.getTime() - 24 * day
  if (!isMistake || at > now.getTime()) return life
  return {
    ...life,
    acts: [...acts.filter((act) => act.at < at), { at, by: made.by, deleted: true }],
  }
}

const projectId = (code: string): string =>
  certain(
    projects.find((project) => project.code === code),
    `project ${code}`,
  ).id

/** A recent item of a higher tier of the same project, for most of the small ones. */
function parentFor(
  chance: Chance,
  parents: Map<string, string[]>,
  project: string,
  type: string,
  number: number,
): string | null {
  const own = tier(type)
  if (own >= 1) {
    const list = parents.get(`${project} ${own}`) ?? []
    parents.set(`${project} ${own}`, [...list.slice(-39), `${project}/${number}`])
  }
  const above = Array.from({ length: 4 - own }, (_, index) => own + 1 + index).flatMap((number) =>
    (parents.get(`${project} ${number}`) ?? []).slice(-(own === 0 ? 12 : 4)),
  )
  return above.length > 0 && chance.happens(own === 0 ? 0.92 : own === 1 ? 0.3 : 0.6)
    ? chance.pick(above)
    : null
}

function lifeOf(chance: Chance, making: Making): Life {
  const { project, type, number, at, parent } = making
  const team = people.flatMap((person, index) =>
    person.projects.includes(project) ? [index + 1] : [],
  )
  const raisedBy = chance.happens(0.85) ? chance.pick(team) : chance.whole(4, people.length)
  const edit = {
    type: `ty_${type}`,
    title: titleFor(chance, project, type),
    ...(parent ? { parent } : {}),
    ...given(chance, making, team),
  }
  return {
    project,
    number,
    type,
    parent,
    made: { at, by: raisedBy, edit },
    acts: [...walk(chance, making, team)].sort((a, b) => a.at - b.at),
  }
}
