import type { NewProject, ProjectChange } from '@bluestem/core/projects'
import type { AnswerOf } from '@bluestem/core/contract'
import { holdEdition } from '../workspace/edition.ts'
import { recordEdition } from '../definitions/recordEdition.ts'
import { inWords, replaceAt } from '@bluestem/core/definitions'
import { Op, type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import { invalid, noSuchPerson, notFound, type ProblemDetail } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import type { Project } from '../workspace/living.ts'
import { numberOfCalendar, wrongCalendar } from '../calendars/service.ts'
import { newIdentity } from '../workspace/identity.ts'
import { changeVersion } from '../database/versioned.ts'

function judgeCode({ world }: ActorContext, code: string): ProblemDetail[] {
  const wrong: ProblemDetail[] = []
  if (!/^[A-Z][A-Z0-9]{1,9}$/.test(code))
    wrong.push({
      pointer: '/code',
      message: 'A code is two to ten capital letters and digits, beginning with a letter.',
      expected: 'SITE',
      found: code,
    })
  const other = world.projects.find((project) => project.code === code)
  if (other)
    wrong.push({
      pointer: '/code',
      message: `The project “${other.title}” has this code.`,
      expected: 'another code',
      found: code,
    })
  return wrong
}

function judgeRulebook({ world }: ActorContext, id: string): ProblemDetail[] {
  const rulebook = world.document.rulebooks[id]
  if (rulebook && !rulebook.retired) return []
  return [
    {
      pointer: '/rulebook',
      message: 'There is no such rulebook to follow.',
      expected: 'the identity of a rulebook',
      found: id,
    },
  ]
}

async function insertProject(
  database: Sequelize,
  { world, person }: ActorContext,
  id: string,
  given: NewProject,
): Promise<void> {
  const { code, title, description = '', open = true, calendar = null } = given
  const { project, projectMember } = modelsOf(database)
  const made = await project.create({
    identity: id,
    code,
    title: title.trim(),
    description,
    open,
    calendarId: await numberOfCalendar(database, calendar),
  })
  await projectMember.create({ projectId: made.id, personId: person.number, keeper: true })
  await addMembers(database, made.id, numbersOf(world, given.members ?? []))
}

/** Records the edition in which a new project follows its rulebook. */
async function recordFollowing(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  { title, rulebook, open }: NewProject,
): Promise<number> {
  const before = actor.world.document
  const path = ['projects', id]
  const document = replaceAt(before, path, rulebook)
  const note =
    open === false ? 'A new project, for its members only.' : `A new project: ${title.trim()}.`
  return await recordEdition(database, actor, {
    document,
    words: [inWords(before, document, { path, after: rulebook }, () => title)],
    paths: [path],
    note,
  })
}

/** Makes a project that follows a rulebook: the project and the edition that says so come together or not at all. */
export async function makeProject(
  database: Sequelize,
  actor: ActorContext,
  given: NewProject,
): Promise<AnswerOf<'POST /projects'>> {
  const { world, person, now } = actor
  const wrong = [
    ...judgeCode(actor, given.code),
    ...judgeRulebook(actor, given.rulebook),
    ...wrongCalendar(world, given.calendar),
    ...wrongPeople(world, given.members, '/members'),
  ]
  if (wrong.length > 0) throw invalid(wrong)
  const id = newIdentity('pr')
  const { code, rulebook } = given
  return await inTransaction(database, async () => {
    await holdEdition(database, world, 'UPDATE')
    await insertProject(database, actor, id, given)
    const edition = await recordFollowing(database, actor, id, given)
    await audit(database, person.number, 'made a project', `project ${code}`, { after: given }, now)
    await announce(database, 'edition', String(edition), {}, now)
    return { id, code, title: given.title.trim(), rulebook, edition }
  })
}

const numbersOf = (world: World, ids: readonly string[]): number[] =>
  world.people.filter((person) => ids.includes(person.id)).map((person) => person.number)

/** @param viewers whether those may be named who only look */
function wrongPeople(
  world: World,
  ids: readonly string[] = [],
  pointer: string,
  viewers = true,
): ProblemDetail[] {
  const allowed = new Set(
    world.people.filter((person) => viewers || person.role !== 'viewer').map((person) => person.id),
  )
  return ids.flatMap((id, index) =>
    allowed.has(id)
      ? []
      : [
          {
            ...noSuchPerson(`${pointer}/${index}`, id),
            ...(viewers ? {} : { expected: 'the identity of a person who is no viewer' }),
          },
        ],
  )
}

/** Lets people belong to a project; who belongs to it already stays what they are in it. */
async function addMembers(
  database: Sequelize,
  project: number,
  people: readonly number[],
): Promise<void> {
  await modelsOf(database).projectMember.bulkCreate(
    people.map((personId) => ({ projectId: project, personId })),
    { ignoreDuplicates: true },
  )
}

/** Lets these and no others belong to a project. */
async function replaceMembers(
  database: Sequelize,
  project: number,
  people: readonly number[],
): Promise<void> {
  await modelsOf(database).projectMember.destroy({
    where: { projectId: project, personId: { [Op.notIn]: [...people] } },
  })
  await addMembers(database, project, people)
}

/** Lets these and no others keep a project; who kept it stays a member. */
async function replaceKeepers(
  database: Sequelize,
  project: number,
  keepers: readonly number[],
): Promise<void> {
  const { projectMember } = modelsOf(database)
  await projectMember.update({ keeper: false }, { where: { projectId: project } })
  await projectMember.bulkCreate(
    keepers.map((personId) => ({ projectId: project, personId, keeper: true })),
    { updateOnDuplicate: ['keeper'] },
  )
}

const beforeOf = ({ title, description, calendar, open }: Project): object => ({
  title,
  description,
  calendar,
  open,
})

/** Renames a project, says what it is for, which calendar it works by, who may see it and who keeps it. Its code is in every ref, so it stays. */
export async function changeProject(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: ProjectChange,
  match: string,
): Promise<AnswerOf<'PATCH /projects/{id}'>> {
  const { world, person, now } = actor
  const project = world.projects.find((project) => project.id === id)
  if (!project) throw notFound('project of this identity')
  const wrong = [
    ...wrongCalendar(world, given.calendar),
    ...wrongPeople(world, given.members, '/members'),
    ...wrongPeople(world, given.keepers, '/keepers', false),
  ]
  if (wrong.length > 0) throw invalid(wrong)
  return await inTransaction(database, async () => {
    const version = await changeVersion(modelsOf(database).project, id, match, {
      title: given.title?.trim() || undefined,
      description: given.description,
      open: given.open,
      calendarId:
        given.calendar === undefined ? undefined : await numberOfCalendar(database, given.calendar),
    })
    if (given.members)
      await replaceMembers(database, project.number, numbersOf(world, given.members))
    if (given.keepers)
      await replaceKeepers(database, project.number, numbersOf(world, given.keepers))
    await audit(
      database,
      person.number,
      'changed a project',
      `project ${project.code}`,
      { before: beforeOf(project), after: given },
      now,
    )
    await announce(database, 'project', id, { project: project.number }, now)
    return { id, title: given.title?.trim() || project.title, version }
  })
}
