import { asText, asTextOrNull, asTexts } from '@bluestem/core/known'
import { orderBetween } from '@bluestem/core/definitions'
import type { Facts } from '@bluestem/core/queries'
import { judgeNew, type MakeItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { nextInProject } from '../items/place.ts'
import { addFollowers } from '../items/notices.ts'
import { makeItem, saveText } from '../items/write.ts'
import { rememberLabels } from '../labels/recent.ts'
import { invalid, refused } from '../problems/problem.ts'
import { lockKey, lockTree } from '../sql/locks.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { personAuthor } from '../workspace/author.ts'
import { holdEdition } from '../workspace/edition.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { Project } from '../workspace/living.ts'
import { columnValues } from './columns.ts'
import { type LoadedGround, loadGround } from './ground.ts'
import { problemOf } from './refusal.ts'
import { rulesFor } from './rules.ts'

/** The project an item is made in. @throws Problem where there is none, or it follows no rulebook */
export function projectGiven({ world, person }: ActorContext, given: string): Project {
  const project = world.projects.find((project) => project.id === given || project.code === given)
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw invalid([
      {
        pointer: '/project',
        message: `There is no project “${given}”.`,
        expected: 'a code such as SITE',
        found: given,
      },
    ])
  if (!world.document.projects[project.id])
    throw refused(`${project.title} follows no rulebook yet.`)
  return project
}

/** A new item as it will be, judged. @throws Problem with what keeps it from being made */
async function judgedItem(
  database: Sequelize,
  actor: ActorContext,
  { project: _project, position: _position, ...given }: MakeItem,
  project: Project,
): Promise<{ readonly item: Facts; readonly idOf: LoadedGround['idOf'] }> {
  const asksParent = typeof given.parent === 'string' && given.parent !== ''
  // Two moves at once could close a circle that neither sees.
  if (asksParent) await lockTree(database)
  const { ground, idOf } = await loadGround(database, actor, [], {
    parents: [given.parent],
    around: asksParent,
  })
  const judged = judgeNew(rulesFor(actor), ground, project.id, given)
  if (!judged.ok) throw problemOf(judged.refusal)
  return { item: judged.item, idOf }
}

/** Makes an item inside a transaction that may make more. */
export async function makeInside(
  database: Sequelize,
  actor: ActorContext,
  asked: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> {
  const { world, person, now } = actor
  const project = projectGiven(actor, asked.project)
  await holdEdition(database, world)
  const before = key ? await answeredBefore(database, person.number, key) : undefined
  if (before !== undefined) return { ref: before, made: false }
  const { item, idOf } = await judgedItem(database, actor, asked, project)
  const { number, last } = await nextInProject(database, project.number)
  const held = Object.keys(item).filter((handle) => item[handle] !== null)
  const row = {
    ...columnValues(world, item, held, idOf),
    project_id: project.number,
    number,
    raised_by: person.number,
    position: orderBetween(last, null),
  }
  const id = await makeItem(database, world, row, personAuthor(person), now)
  const { title, description, labels } = item
  await saveText(database, id, asText(title), asTextOrNull(description), now)
  const given = asTexts(labels).map((label) => world.numbers.numberOf('label', label))
  await rememberLabels(database, person.number, given, now)
  await addFollowers(database, id, [person.number], now)
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
