import { defaultPriority, flowOf, orderBetween, typesOf } from '@bluestem/core/definitions'
import { rememberLabels } from '../labels/recent.ts'
import { phases } from '@bluestem/core/queries'
import type { MakeItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { nextInProject } from '../items/place.ts'
import { lockKey } from '../sql/locks.ts'
import { makeItem, saveText } from '../items/write.ts'
import { announce } from '../sql/outbox.ts'
import { personAuthor } from '../workspace/author.ts'
import type { Project, World } from '../workspace/world.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { invalid, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeFamilies, judgeRequired, standardValues } from './making.ts'
import { pickOne, readValues, type ReadValues } from './given.ts'
import { judgeParent } from './parent.ts'
import { holdEdition } from '../workspace/edition.ts'

/** The project an item is made in. @throws Problem where there is none, or it follows no rulebook */
function projectGiven(
  { world, person }: ActorContext,
  given: string,
): { project: Project; rulebook: string } {
  const project = world.projects.find((one) => one.id === given || one.code === given)
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw invalid([
      {
        pointer: '/project',
        message: `There is no project “${given}”.`,
        expected: 'a code such as SITE',
        found: given,
      },
    ])
  const rulebook = world.document.projects[project.id]
  if (!rulebook) throw refused(`${project.title} follows no rulebook yet.`)
  return { project, rulebook }
}

function judgeOffered({ document }: World, rulebook: string, project: Project, type: string): void {
  const offered = typesOf(document, rulebook)
  if (offered.includes(type)) return
  throw refused(`${project.title} has no items of type ${document.types[type]!.title}.`, [
    {
      pointer: '/type',
      message: 'The rulebook does not offer this type.',
      expected: offered.map((id) => document.types[id]!.title).join(', '),
    },
  ])
}

/** The status a new item is in: the one given, or the start of its flow. @throws Problem for one outside the flow */
function startingStatus(
  { document, numbers }: World,
  rulebook: string,
  type: string,
  given: number | undefined,
): { id: string; number: number } {
  const flow = flowOf(document, rulebook, type)
  const number = given ?? numbers.of('status', flow.start!)!
  const id = numbers.identity('status', number)!
  if (id !== flow.start && !flow.statuses.includes(id))
    throw refused(
      `${document.statuses[id]!.title} is not in the flow of ${document.types[type]!.title}.`,
      [{ pointer: '/status', message: 'Not in the flow of the type.' }],
    )
  return { id, number }
}

/** What is given of a new item, judged, with what its definitions give where nothing is said. */
async function judgeNew(
  database: Sequelize,
  actor: ActorContext,
  given: MakeItem,
  project: Project,
  rulebook: string,
): Promise<{ read: ReadValues; labels: readonly number[]; values: Record<string, unknown> }> {
  const { world } = actor
  const completed = standardValues(actor, rulebook, project, { ...given })
  const read = await readValues(database, actor, completed, project)
  const type = world.numbers.identity('type', read.values['type_id'] as number)!
  judgeOffered(world, rulebook, project, type)
  const status = startingStatus(
    world,
    rulebook,
    type,
    read.values['status_id'] as number | undefined,
  )
  if (typeof read.values['parent_id'] === 'number')
    await judgeParent(database, actor, null, type, read.values['parent_id'])
  judgeRequired(world, rulebook, type, read)
  const labels = pickOne(world, (read.values['labels'] as number[] | undefined) ?? [], [])
  judgeFamilies(world, rulebook, type, labels)
  const standard = defaultPriority(world.document, rulebook)
  const values = {
    priority_id: standard ? world.numbers.of('priority', standard) : null,
    ...read.values,
    labels,
    status_id: status.number,
    phase: phases.indexOf(world.document.statuses[status.id]!.phase),
  }
  return { read, labels, values }
}

/** Makes an item inside a transaction that may make more. */
export async function makeInside(
  database: Sequelize,
  actor: ActorContext,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> {
  const { world, person, now } = actor
  const { project, rulebook } = projectGiven(actor, given.project)
  await holdEdition(database, world)
  const before = key ? await answeredBefore(database, person.number, key) : undefined
  if (before !== undefined) return { ref: before, made: false }
  const { read, labels, values } = await judgeNew(database, actor, given, project, rulebook)
  const { number, last } = await nextInProject(database, project.number)
  const row = {
    ...values,
    project_id: project.number,
    number,
    raised_by: person.number,
    position: orderBetween(last, null),
  }
  const id = await makeItem(database, row, personAuthor(person), now, read.types)
  await saveText(database, id, String(read.values['title']), read.description ?? null, now)
  await rememberLabels(database, person.number, labels, now)
  const ref = `${project.code}/${number}`
  if (key) await modelsOf(database).answered.create({ byId: person.number, key, subject: ref })
  await announce(database, 'item', ref, { project: project.number }, now)
  return { ref, made: true }
}

/** The ref that a key was answered with; whoever uses the same key at the same moment waits. */
export async function answeredBefore(
  database: Sequelize,
  person: number,
  key: string,
): Promise<string | undefined> {
  await lockKey(database, person, key)
  const before = await modelsOf(database).answered.findOne({ where: { byId: person, key } })
  return before?.subject
}

/** Makes an item; with an idempotency key, asking again gives the item made the first time. */
export const makeItemOnce = async (
  database: Sequelize,
  actor: ActorContext,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> =>
  await inTransaction(database, async () => await makeInside(database, actor, given, key))
