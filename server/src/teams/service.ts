import { certain } from '@bluestem/core/known'
import type { TeamAnswer, TeamChange } from '@bluestem/core/teams'
import type { AnswerOf } from '@bluestem/core/contract'
import type { Calendar } from '@bluestem/core/calendar'
import { changingWith, type Cql2Json, readQuery } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { queryRows } from '../sql/run.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import type { Team } from '../workspace/living.ts'
import {
  invalid,
  notFound,
  type ProblemDetail,
  refused,
  noSuchPerson,
} from '../problems/problem.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { filterForms } from '../queries/filter.ts'
import { meetsStatement } from '../sql/answers.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { calendarOf, numberOfCalendar, wrongCalendar } from '../calendars/service.ts'
import { countNaming } from '../saved/naming.ts'
import { newIdentity } from '../workspace/identity.ts'
import { auditorOf } from '../audit/recorder.ts'
import { changeVersion, deleteVersion } from '../database/versioned.ts'

/** Teams as they are told: the remit as text and as a sentence, or what is wrong with it since something it names is gone. */
export const teams = ({ world }: ActorContext): AnswerOf<'GET /teams'> => ({
  teams: world.teams.map((team) => shown(world, team)),
})

function shown(world: World, { id, title, people, remit, calendar, version }: Team): TeamAnswer {
  const told = {
    kept: remit,
    ...(remit === null ? { text: '', sentence: [], errors: [] } : filterForms(world, remit)),
  }
  return {
    id,
    title,
    people: world.people.filter((person) => people.has(person.number)).map((person) => person.id),
    remit: told,
    calendar,
    version,
  }
}

const recorded = auditorOf('team')

interface Taken {
  readonly title: string
  readonly remit: Cql2Json | null
  readonly calendar: string | null
  readonly people: readonly number[]
}

function judgeTitle(world: World, title: string, before?: Team): ProblemDetail[] {
  if (title === '')
    return [
      { pointer: '/title', message: 'A team needs a title.', expected: 'its name', found: title },
    ]
  const isTwin = (team: Team): boolean =>
    team.id !== before?.id && team.title.toLowerCase() === title.toLowerCase()
  if (!world.teams.some(isTwin)) return []
  return [
    {
      pointer: '/title',
      message: `There is a team “${title}” already.`,
      expected: 'another title',
      found: title,
    },
  ]
}

const judgePeople = (world: World, ids: readonly string[]): ProblemDetail[] =>
  ids.flatMap((id, index) =>
    world.people.some((person) => person.id === id) ? [] : [noSuchPerson(`/people/${index}`, id)],
  )

const untitled: Taken = { title: '', remit: null, calendar: null, people: [] }

/** Judges what is given of a team, and completes it with what it was before. */
function take(world: World, given: TeamChange, before?: Team): Taken {
  const held: Taken = before ? { ...before, people: [...before.people] } : untitled
  const title = given.title?.trim() ?? held.title
  const wrong = [
    ...judgeTitle(world, title, before),
    ...wrongCalendar(world, given.calendar),
    ...judgePeople(world, given.people ?? []),
  ]
  if (wrong.length > 0) throw invalid(wrong)
  const { remit, calendar, people } = given
  return {
    title,
    remit: remit === undefined ? held.remit : readRemit(world, remit),
    calendar: calendar === undefined ? held.calendar : calendar,
    people: people?.map((id) => numberOfPerson(world, id)) ?? held.people,
  }
}

const numberOfPerson = (world: World, id: string): number =>
  certain(
    world.people.find((person) => person.id === id),
    `person ${id}`,
  ).number

/** A remit is the same for whoever asks, so it cannot name who does. */
function readRemit(world: World, text: string): Cql2Json | null {
  if (text.trim() === '') return null
  const read = readQuery({ lang: 'cql2-text', filter: text }, world.vocabulary)
  if (!read.ok) throw invalid(read.errors.map((error) => ({ ...error, pointer: '/remit' })))
  const { condition, kept } = read.value
  if (changingWith(condition).has('asker'))
    throw invalid([
      {
        pointer: '/remit',
        message: 'A remit is the same for everybody, so it cannot ask who is looking.',
        expected: 'a filter without me()',
        found: text,
      },
    ])
  if (changingWith(condition).has('definition'))
    throw invalid([
      {
        pointer: '/remit',
        message:
          'A remit says itself which items are theirs, so it cannot look at the remit of a team.',
        expected: 'a filter without in_remit()',
        found: text,
      },
    ])
  return kept
}

export async function makeTeam(
  database: Sequelize,
  actor: ActorContext,
  given: TeamChange,
): Promise<TeamAnswer> {
  const taken = take(actor.world, given)
  const id = newIdentity('tm')
  return await inTransaction(database, async () => {
    await modelsOf(database).team.create({ identity: id, title: taken.title, version: 0 })
    return await store(database, actor, id, '*', taken, 'made a team', { after: given })
  })
}

export async function changeTeam(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: TeamChange,
  match: string,
): Promise<TeamAnswer> {
  const team = teamBy(actor.world, id)
  const taken = take(actor.world, given, team)
  return await inTransaction(
    database,
    async () =>
      await store(database, actor, id, match, taken, 'changed a team', {
        before: { title: team.title, remit: team.remit, calendar: team.calendar },
        after: given,
      }),
  )
}

/** Deletes a team that owns no iteration. */
export async function discardTeam(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  match: string,
): Promise<void> {
  const { title, remit, calendar } = teamBy(actor.world, id)
  const models = modelsOf(database)
  await inTransaction(database, async () => {
    const team = await models.team.findOne({ where: { identity: id } })
    const teamId = team?.id ?? 0
    const owned = await models.iteration.count({ where: { teamId } })
    if (owned > 0)
      throw refused(
        `“${title}” owns ${owned === 1 ? 'an iteration' : `${owned} iterations`}, which history names; it stays.`,
      )
    const naming = await countNaming(database, id)
    if (naming > 0)
      throw refused(
        `${naming === 1 ? 'A kept query, view, measure or dashboard asks' : `${naming} kept queries, views, measures or dashboards ask`} for what is in the remit of “${title}”. Change ${naming === 1 ? 'it' : 'them'} before the team is deleted.`,
      )
    await models.teamMember.destroy({ where: { teamId } })
    await deleteVersion(models.team, id, match)
    await recorded(database, actor, 'deleted a team', id, { before: { title, remit, calendar } })
  })
}

function teamBy(world: World, id: string): Team {
  const team = world.teams.find((team) => team.id === id)
  if (!team) throw notFound('team of this identity')
  return team
}

async function store(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  match: string,
  taken: Taken,
  act: string,
  change: object,
): Promise<TeamAnswer> {
  const { title, remit, calendar, people } = taken
  const models = modelsOf(database)
  const version = await changeVersion(models.team, id, match, {
    title,
    content: { remit },
    calendarId: await numberOfCalendar(database, calendar),
  })
  const { id: teamId } = await models.team.findOne({ where: { identity: id }, rejectOnEmpty: true })
  await models.teamMember.destroy({ where: { teamId } })
  await models.teamMember.bulkCreate(people.map((personId) => ({ teamId, personId })))
  await recorded(database, actor, act, id, change)
  return shown(actor.world, { id, title, remit, calendar, people: new Set(people), version })
}

/**
 * The calendar an item's clocks run by, and the team it comes from: of the first team by title that names one and has the item in its
 * remit; else its project's, else the workspace's. A remit that no longer reads counts as no.
 */
export async function calendarOfItem(
  database: Sequelize,
  { world, person, now }: ActorContext,
  id: number,
  project: string,
): Promise<{ calendar: Calendar; team: string | null }> {
  const remitOf = new Map(world.vocabulary.teams.map(({ id: team, remit }) => [team, remit]))
  const remits = world.teams
    .filter((team) => team.calendar !== null)
    .flatMap((team) => {
      const condition = remitOf.get(team.id)
      return condition ? [{ team, condition }] : []
    })
  if (remits.length === 0) return { calendar: calendarOf(world, project), team: null }
  const statement = meetsStatement(
    queryContextOf(world, person, now),
    remits.map((remit) => remit.condition),
    id,
  )
  const [meets] = await queryRows<Record<string, boolean>>(database, statement)
  const team = remits.find((_, index) => meets?.[`c${index}`])?.team
  return {
    calendar:
      world.calendars.find((entry) => entry.id === team?.calendar) ?? calendarOf(world, project),
    team: team?.title ?? null,
  }
}
