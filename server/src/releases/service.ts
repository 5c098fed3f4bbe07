import { elementAt, firstIn } from '@bluestem/core/known'
import { dayOf } from '@bluestem/core/calendar'
import type { AnswerOf } from '@bluestem/core/contract'
import { spansOf } from '@bluestem/core/iterations'
import type {
  NewRelease,
  NewReleaseSeries,
  ReleaseAnswer,
  ReleaseChange,
} from '@bluestem/core/releases'
import type { Sequelize } from 'sequelize'
import { auditorOf } from '../audit/recorder.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { ReleaseModel } from '../database/models/release.ts'
import { changeVersion, deleteVersion, etagOfVersion } from '../database/versioned.ts'
import { countBySpan, namesSpan, projectsInRelease } from '../items/span.ts'
import { judgeDays } from '../iterations/absences.ts'
import { judgeStart, spanShown } from '../iterations/planned.ts'
import { judgeTitles } from '../iterations/service.ts'
import { forbidden, invalid, notFound, refused } from '../problems/problem.ts'
import { lockKey } from '../sql/locks.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { Project } from '../workspace/living.ts'

export const recorded = auditorOf('release')

/** How many releases of a workspace are told. */
const mostTold = 2000

const projectShown = ({ id, title, code }: Project): ReleaseAnswer['projects'][number] => ({
  id,
  title,
  code,
})

/** A release as somebody may know it: with those of its projects that they may see. */
export function shown(
  { world }: ActorContext,
  release: ReleaseModel,
  counts?: { readonly items: number; readonly done: number },
): ReleaseAnswer {
  const own = new Set(release.projects?.map(({ identity }) => identity))
  const projects = world.projects.filter(({ id }) => own.has(id))
  return {
    ...spanShown(release, counts),
    projects: projects.map(projectShown),
  }
}

const isKnown = ({ world }: ActorContext, { identity }: ReleaseModel): boolean =>
  world.source.releases.some(({ id }) => id === identity)

/** All releases of projects that may be seen, the latest first, with how many of their items may be seen. */
export async function releases(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /releases'>> {
  const { project, release } = modelsOf(database)
  const found = await release.findAll({
    include: [{ model: project, as: 'projects' }],
    order: [
      ['endDate', 'DESC'],
      ['id', 'DESC'],
    ],
  })
  const seen = found.filter((release) => isKnown(actor, release)).slice(0, mostTold)
  const visible = visibleProjects(actor.world, actor.person)
  const counts = await countBySpan(database, 'release', visible)
  return { releases: seen.map((release) => shown(actor, release, counts.get(release.id))) }
}

/** @throws Problem 404 where there is none, or none of its projects may be seen */
export async function releaseBy(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ReleaseModel> {
  const { project, release } = modelsOf(database)
  const include = [{ model: project, as: 'projects' }]
  const found = await release.findOne({ where: { identity }, include })
  if (!found || !isKnown(actor, found)) throw notFound('release of this identity')
  return found
}

export async function readRelease(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ReleaseAnswer> {
  const found = await releaseBy(database, actor, identity)
  const visible = visibleProjects(actor.world, actor.person)
  const counts = await countBySpan(database, 'release', visible)
  return shown(actor, found, counts.get(found.id))
}

/** Whether somebody keeps every one of some projects. */
export const mayPlan = ({ world, person }: ActorContext, projects: readonly string[]): boolean =>
  person.role === 'administrator' ||
  (person.role === 'member' &&
    projects.every((id) =>
      world.projects.find((project) => project.id === id)?.keepers.has(person.number),
    ))

/** @throws Problem 403 for whoever does not keep every project of a release */
export function judgePlanner(actor: ActorContext, projects: readonly string[]): void {
  if (!mayPlan(actor, projects))
    throw forbidden(
      'A release is planned by those who keep every project it belongs to, and by administrators.',
    )
}

export const projectsOf = ({ projects = [] }: ReleaseModel): string[] =>
  projects.map(({ identity }) => identity)

/** @throws Problem where one of the projects is none */
function projectsGiven({ world }: ActorContext, given: readonly string[]): Project[] {
  const found = given.flatMap((id) => world.projects.find((project) => project.id === id) ?? [])
  const lost = given.findIndex((id) => !found.some((project) => project.id === id))
  if (lost >= 0)
    throw invalid([
      {
        pointer: `/projects/${lost}`,
        message: 'There is no such project.',
        expected: 'the identity of a project',
        found: elementAt(given, lost),
      },
    ])
  return found
}

interface Planned {
  readonly title: string
  readonly start: string | null
  readonly end: string | null
  readonly goal?: string | undefined
}

/** @throws Problem where the days of a release are none, or the last is before the first */
function judgeDaysOf({ start, end }: Planned): void {
  const days = [start ?? end, end ?? start]
  if (days[0] && days[1]) judgeDays(days[0], days[1])
}

/** @throws Problem where a release that shares a project has the same title */
async function judgeTitle(
  database: Sequelize,
  titles: readonly string[],
  projects: readonly Project[],
  except?: string,
): Promise<void> {
  const { project, release } = modelsOf(database)
  const own = projects.map(({ number }) => number)
  const others = await release.findAll({
    include: [{ model: project, as: 'projects', where: { id: own } }],
  })
  const taken = new Set(
    others.filter(({ identity }) => identity !== except).map(({ title }) => title.toLowerCase()),
  )
  const twin = titles.find((title) => taken.has(title.trim().toLowerCase()))
  if (twin)
    throw invalid([
      {
        pointer: '/title',
        message: `There is a release “${twin.trim()}” of these projects already.`,
      },
    ])
}

/** Makes releases of some projects, among which no other has the same title. */
async function make(
  database: Sequelize,
  actor: ActorContext,
  given: readonly string[],
  planned: readonly Planned[],
): Promise<ReleaseAnswer[]> {
  const projects = projectsGiven(actor, given)
  judgePlanner(actor, given)
  for (const entry of planned) judgeDaysOf(entry)
  return await inTransaction(database, async () => {
    await lockKey(database, 0, 'releases')
    const titles = planned.map(({ title }) => title)
    await judgeTitle(database, titles, projects)
    const { release, releaseProject } = modelsOf(database)
    const answers: ReleaseAnswer[] = []
    for (const { title, start, end, goal = '' } of planned) {
      const identity = newIdentity('re')
      const days = { startDate: start, endDate: end }
      const made = await release.create({ identity, title: title.trim(), ...days, goal })
      await releaseProject.bulkCreate(
        projects.map(({ number }) => ({ releaseId: made.id, projectId: number })),
      )
      const after = { title, start, end, projects: projects.map((project) => project.title) }
      await recorded(database, actor, 'made a release', identity, { after })
      answers.push({
        ...spanShown(made),
        projects: projects.map(projectShown),
      })
    }
    return answers
  })
}

export async function makeRelease(
  database: Sequelize,
  actor: ActorContext,
  { projects, start = null, end = null, ...given }: NewRelease,
): Promise<ReleaseAnswer> {
  return firstIn(await make(database, actor, projects, [{ ...given, start, end }]))
}

/** Makes releases that follow each other, each of which comes out on the last of its days. */
export async function makeReleaseSeries(
  database: Sequelize,
  actor: ActorContext,
  { projects, ...series }: NewReleaseSeries,
): Promise<AnswerOf<'POST /releases/series'>> {
  const spans = spansOf(series)
  judgeTitles(series.name, spans)
  return { releases: await make(database, actor, projects, spans) }
}

/** Gives a release other projects. @throws Problem where items of one that it leaves are in it */
async function changeProjects(
  database: Sequelize,
  actor: ActorContext,
  { id, title, projects: held = [] }: ReleaseModel,
  projects: readonly Project[],
): Promise<void> {
  const { releaseProject } = modelsOf(database)
  const numbers = projects.map(({ number }) => number)
  const left = held.map((project) => project.id).filter((number) => !numbers.includes(number))
  const [used] = await projectsInRelease(database, id, left)
  const kept = actor.world.projects.find(({ number }) => number === used)
  if (kept)
    throw refused(`Items of ${kept.title} are in “${title}”. Take them out before it leaves it.`)
  await releaseProject.destroy({ where: { releaseId: id } })
  await releaseProject.bulkCreate(numbers.map((projectId) => ({ releaseId: id, projectId })))
}

export async function changeRelease(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  { projects: given, ...change }: ReleaseChange,
  match: string,
): Promise<ReleaseAnswer> {
  await inTransaction(database, async () => {
    const before = await releaseBy(database, actor, identity)
    judgePlanner(actor, projectsOf(before))
    const projects = projectsGiven(actor, given ?? projectsOf(before))
    judgePlanner(
      actor,
      projects.map(({ id }) => id),
    )
    await lockKey(database, 0, 'releases')
    const title = change.title?.trim() ?? before.title
    const start = change.start === undefined ? before.startDate : change.start
    const end = change.end === undefined ? before.endDate : change.end
    judgeDaysOf({ title, start, end })
    await judgeTitle(database, [title], projects, identity)
    await changeVersion(modelsOf(database).release, identity, match, {
      title,
      startDate: start,
      endDate: end,
      ...(change.goal === undefined ? {} : { goal: change.goal }),
    })
    if (given) await changeProjects(database, actor, before, projects)
    await recorded(database, actor, 'changed a release', identity, {
      before: {
        title: before.title,
        start: before.startDate,
        end: before.endDate,
        goal: before.goal,
        projects: before.projects?.map((project) => project.title),
      },
      after: {
        ...change,
        ...(given ? { projects: projects.map((project) => project.title) } : {}),
      },
    })
  })
  return await readRelease(database, actor, identity)
}

/** Deletes a release that no item ever was in. */
export async function discardRelease(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    const found = await releaseBy(database, actor, identity)
    judgePlanner(actor, projectsOf(found))
    if (await namesSpan(database, 'release', found.id))
      throw refused(`“${found.title}” is named by items or by their history; it stays.`)
    await deleteVersion(modelsOf(database).release, identity, match)
    await recorded(database, actor, 'deleted a release', identity, {
      before: { title: found.title },
    })
  })
}

/** Starts a release: what is in it now is what was committed. */
export async function startRelease(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ReleaseAnswer> {
  await inTransaction(database, async () => {
    const release = await releaseBy(database, actor, identity)
    judgePlanner(actor, projectsOf(release))
    judgeStart(release, dayOf(actor.now.getTime(), actor.world.zone))
    await changeVersion(modelsOf(database).release, identity, etagOfVersion(release), {
      startedAt: actor.now,
    })
    await recorded(database, actor, 'started a release', identity, {
      after: { title: release.title },
    })
  })
  return await readRelease(database, actor, identity)
}
