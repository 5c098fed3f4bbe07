import { firstIn } from '@bluestem/core/known'
import { dayOf } from '@bluestem/core/calendar'
import type { AnswerOf } from '@bluestem/core/contract'
import {
  type IterationAnswer,
  type IterationChange,
  type NewIteration,
  type NewSeries,
  overlap,
  spansOf,
} from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import { auditorOf } from '../audit/recorder.ts'
import { inTransaction } from '../database/connect.ts'
import type { IterationModel } from '../database/models/iteration.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion, deleteVersion, etagOfVersion } from '../database/versioned.ts'
import { countBySpan, namesSpan } from '../items/span.ts'
import { forbidden, invalid, notFound, refused } from '../problems/problem.ts'
import { lockKey } from '../sql/locks.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'
import type { Team } from '../workspace/living.ts'
import { judgeDays } from './absences.ts'
import { judgeStart, spanShown } from './planned.ts'

export const recorded = auditorOf('iteration')

/** How many iterations of a workspace are told: about twenty years of one team’s. */
const mostTold = 2000

export const shown = (
  iteration: IterationModel,
  counts?: { readonly items: number; readonly done: number },
): IterationAnswer => {
  const { team } = iteration
  return {
    ...spanShown(iteration, counts),
    team: team ? { id: team.identity, title: team.title } : null,
  }
}

/** All iterations, the latest first, with how many items of each may be seen. */
export async function iterations(
  database: Sequelize,
  { world, person }: ActorContext,
): Promise<AnswerOf<'GET /iterations'>> {
  const { iteration, team } = modelsOf(database)
  const found = await iteration.findAll({
    include: [{ model: team, as: 'team' }],
    order: [
      ['startDate', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: mostTold,
  })
  const counts = await countBySpan(database, 'iteration', visibleProjects(world, person))
  return { iterations: found.map((iteration) => shown(iteration, counts.get(iteration.id))) }
}

/** @throws Problem 404 where there is none */
export async function iterationBy(database: Sequelize, identity: string): Promise<IterationModel> {
  const { iteration, team } = modelsOf(database)
  const found = await iteration.findOne({
    where: { identity },
    include: [{ model: team, as: 'team' }],
  })
  if (!found) throw notFound('iteration of this identity')
  return found
}

/** An iteration with how many items it has. */
export async function readIteration(
  database: Sequelize,
  { world, person }: ActorContext,
  identity: string,
): Promise<IterationAnswer> {
  const found = await iterationBy(database, identity)
  const counts = await countBySpan(database, 'iteration', visibleProjects(world, person))
  return shown(found, counts.get(found.id))
}

/** @throws Problem 403 for whoever neither belongs to the team nor is an administrator */
export function judgePlanner({ world, person }: ActorContext, team: string | null): void {
  if (person.role === 'administrator') return
  const owner = world.teams.find(({ id }) => id === team)
  if (owner?.people.has(person.number)) return
  throw forbidden(
    owner
      ? `The iterations of ${owner.title} are planned by those who belong to it.`
      : 'Iterations of the whole workspace are planned by administrators.',
  )
}

function teamGiven(world: World, id: string | null): Team | undefined {
  if (id === null) return undefined
  const team = world.teams.find((team) => team.id === id)
  if (team) return team
  throw invalid([
    {
      pointer: '/team',
      message: 'There is no such team.',
      expected: 'the identity of a team, or none',
      found: id,
    },
  ])
}

interface Planned {
  readonly title: string
  readonly start: string
  readonly end: string
}

/** @throws Problem where titles or days of iterations of one owner meet */
function judgeBeside(planned: readonly Planned[], others: readonly IterationModel[]): void {
  const wrong = planned.flatMap(({ title, start, end }) => {
    const twin = others.find((other) => other.title.toLowerCase() === title.toLowerCase())
    if (twin) return [{ pointer: '/title', message: `There is an iteration “${title}” already.` }]
    const met = others.find((other) =>
      overlap({ start, end }, { start: other.startDate, end: other.endDate }),
    )
    if (!met) return []
    const days = `${met.startDate} to ${met.endDate}`
    return [
      {
        pointer: '/start',
        message: `“${title}” would share days with “${met.title}”, which goes from ${days}.`,
        expected: 'days that no other iteration of the same team has',
        found: `${start} to ${end}`,
      },
    ]
  })
  if (wrong.length > 0) throw invalid(wrong)
}

/** Makes iterations of one owner, which may share neither titles nor days with its others. */
async function make(
  database: Sequelize,
  actor: ActorContext,
  owner: string | null,
  planned: readonly (Planned & { readonly goal?: string | undefined })[],
): Promise<IterationModel[]> {
  const team = teamGiven(actor.world, owner)
  judgePlanner(actor, owner)
  for (const { start, end } of planned) judgeDays(start, end)
  return await inTransaction(database, async () => {
    const { iteration, team: teams } = modelsOf(database)
    await lockKey(database, 0, `iterations ${owner ?? ''}`)
    const owned = team ? await teams.findOne({ where: { identity: team.id } }) : null
    const teamId = owned?.id ?? null
    const others = await iteration.findAll({ where: { teamId } })
    judgeBeside(planned, others)
    const made: IterationModel[] = []
    for (const { title, start, end, goal = '' } of planned) {
      const id = newIdentity('it')
      const entry = await iteration.create({
        identity: id,
        title: title.trim(),
        teamId,
        startDate: start,
        endDate: end,
        goal,
      })
      await recorded(database, actor, 'made an iteration', id, { after: { title, start, end } })
      made.push(Object.assign(entry, { team: owned }))
    }
    return made
  })
}

export async function makeIteration(
  database: Sequelize,
  actor: ActorContext,
  { team = null, ...given }: NewIteration,
): Promise<IterationAnswer> {
  return shown(firstIn(await make(database, actor, team, [given])))
}

/** @throws Problem where the rule of a series gives several the same title */
export function judgeTitles(name: string, spans: readonly { readonly title: string }[]): void {
  if (new Set(spans.map(({ title }) => title)).size === spans.length) return
  throw invalid([
    {
      pointer: '/name',
      message: 'Several would have the same title.',
      expected: 'a name with {n}, which stands for the number of each',
      found: name,
    },
  ])
}

/** Makes a series. */
export async function makeSeries(
  database: Sequelize,
  actor: ActorContext,
  { team = null, ...series }: NewSeries,
): Promise<AnswerOf<'POST /iterations/series'>> {
  const spans = spansOf(series)
  judgeTitles(series.name, spans)
  const made = await make(database, actor, team, spans)
  return { iterations: made.map((iteration) => shown(iteration)) }
}

export async function changeIteration(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  given: IterationChange,
  match: string,
): Promise<IterationAnswer> {
  await inTransaction(database, async () => {
    const before = await iterationBy(database, identity)
    const owner = before.team?.identity ?? null
    judgePlanner(actor, owner)
    await lockKey(database, 0, `iterations ${owner ?? ''}`)
    const { iteration } = modelsOf(database)
    const title = given.title?.trim() ?? before.title
    const start = given.start ?? before.startDate
    const end = given.end ?? before.endDate
    if (start !== null && end !== null) {
      judgeDays(start, end)
      const others = await iteration.findAll({ where: { teamId: before.teamId ?? null } })
      judgeBeside(
        [{ title, start, end }],
        others.filter(({ id }) => id !== before.id),
      )
    }
    await changeVersion(iteration, identity, match, {
      title,
      startDate: start,
      endDate: end,
      ...(given.goal === undefined ? {} : { goal: given.goal }),
    })
    await recorded(database, actor, 'changed an iteration', identity, {
      before: {
        title: before.title,
        start: before.startDate,
        end: before.endDate,
        goal: before.goal,
      },
      after: given,
    })
  })
  return await readIteration(database, actor, identity)
}

/** Deletes an iteration that no item ever was in. */
export async function discardIteration(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    const { id, title, team } = await iterationBy(database, identity)
    judgePlanner(actor, team?.identity ?? null)
    if (await namesSpan(database, 'iteration', id))
      throw refused(`“${title}” is named by items or by their history; it stays.`)
    await deleteVersion(modelsOf(database).iteration, identity, match)
    await recorded(database, actor, 'deleted an iteration', identity, { before: { title } })
  })
}

/** Starts an iteration: what is in it now is what was committed. */
export async function startIteration(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<IterationAnswer> {
  await inTransaction(database, async () => {
    const iteration = await iterationBy(database, identity)
    judgePlanner(actor, iteration.team?.identity ?? null)
    judgeStart(iteration, dayOf(actor.now.getTime(), actor.world.zone))
    await changeVersion(modelsOf(database).iteration, identity, etagOfVersion(iteration), {
      startedAt: actor.now,
    })
    await recorded(database, actor, 'started an iteration', identity, {
      after: { title: iteration.title },
    })
  })
  return await readIteration(database, actor, identity)
}
