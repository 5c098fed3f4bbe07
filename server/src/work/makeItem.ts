import { defaultPriority, flowOf, orderBetween, typesOf } from '@bluestem/core/definitions'
import { rememberLabels } from '../labels/recent.ts'
import { phases } from '@bluestem/core/queries'
import type { MakeItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows } from '../database/connect.ts'
import { keepText, makeItem, personAuthor, tell } from '../items/write.ts'
import type { Project } from '../workspace/world.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { invalid, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeFamilies, judgeRequired, standardValues } from './making.ts'
import { pickOne, readValues } from './given.ts'
import { judgeParent } from './parent.ts'
import { holdEdition } from '../workspace/edition.ts'

/** Makes an item inside a transaction that may make more. */
export async function makeInside(
  database: Sequelize,
  acting: ActorContext,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> {
  const { world, person, now } = acting
  const project = world.projects.find(
    (one) => one.id === given.project || one.code === given.project,
  )
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw invalid([
      {
        pointer: '/project',
        message: `There is no project “${given.project}”.`,
        expected: 'a code such as YARD',
        found: given.project,
      },
    ])
  const rulebook = world.document.projects[project.id]
  if (!rulebook) throw refused(`${project.title} follows no rulebook yet.`)
  await holdEdition(database, world)
  const before = key ? await answeredBefore(database, person.number, key) : undefined
  if (before !== undefined) return { ref: before, made: false }
  const read = await readValues(
    database,
    acting,
    standardValues(acting, rulebook, project, given as unknown as Record<string, unknown>),
    project,
  )
  const type = world.numbers.identity('type', read.values['type_id'] as number)!
  const offered = typesOf(world.document, rulebook)
  if (!offered.includes(type))
    throw refused(`${project.title} has no items of type ${world.document.types[type]!.title}.`, [
      {
        pointer: '/type',
        message: 'The rulebook does not offer this type.',
        expected: offered.map((id) => world.document.types[id]!.title).join(', '),
      },
    ])
  const flow = flowOf(world.document, rulebook, type)
  const start = world.numbers.of('status', flow.start!)!
  const status = (read.values['status_id'] as number | undefined) ?? start
  const statusId = world.numbers.identity('status', status)!
  if (status !== start && !flow.statuses.includes(statusId))
    throw refused(
      `${world.document.statuses[statusId]!.title} is not in the flow of ${world.document.types[type]!.title}.`,
      [{ pointer: '/status', message: 'Not in the flow of the type.' }],
    )
  if (typeof read.values['parent_id'] === 'number')
    await judgeParent(database, acting, null, type, read.values['parent_id'])
  judgeRequired(world, rulebook, type, read)
  const labels = pickOne(world, (read.values['labels'] as number[] | undefined) ?? [], [])
  judgeFamilies(world, rulebook, type, labels)
  const standard = defaultPriority(world.document, rulebook)
  const { number, last } = await nextInProject(database, project)
  const values = {
    priority_id: standard ? world.numbers.of('priority', standard) : null,
    ...read.values,
    labels,
    project_id: project.number,
    number,
    status_id: status,
    phase: phases.indexOf(world.document.statuses[statusId]!.phase),
    raised_by: person.number,
    position: orderBetween(last, null),
  }
  const id = await makeItem(database, values, personAuthor(person), now, read.types)
  await keepText(database, id, String(read.values['title']), read.description ?? null, now)
  await rememberLabels(database, person.number, labels, now)
  const ref = `${project.code}/${number}`
  if (key)
    await rows(
      database,
      'INSERT INTO answered (by_id, key, subject) VALUES ($1, $2, $3) RETURNING key',
      [person.number, key, ref],
    )
  await tell(database, 'item', ref, { project: project.number }, now)
  return { ref, made: true }
}

/** Holds a project, so that places in its hand order and numbers are given one after the other. */
export const holdProject = async (database: Sequelize, project: Project): Promise<void> =>
  void (await rows(database, 'SELECT id FROM project WHERE id = $1 FOR NO KEY UPDATE', [
    project.number,
  ]))
/** The ref that a key was answered with; whoever uses the same key at the same moment waits. */
export async function answeredBefore(
  database: Sequelize,
  person: number,
  key: string,
): Promise<string | undefined> {
  await rows(database, 'SELECT pg_advisory_xact_lock(hashtextextended($1, 7105))::text', [
    `${person} ${key}`,
  ])
  return (
    await rows<{ subject: string }>(
      database,
      'SELECT subject FROM answered WHERE by_id = $1 AND key = $2',
      [person, key],
    )
  )[0]?.subject
}
/** The number of the next item of a project and the last place of its hand order. A number that is taken already is passed over. */
export async function nextInProject(
  database: Sequelize,
  project: Project,
): Promise<{ number: number; last: string | null }> {
  await holdProject(database, project)
  const [found] = await rows<{ last: string | null }>(
    database,
    'SELECT max(position) AS last FROM item WHERE project_id = $1',
    [project.number],
  )
  const [counted] = await rows<{ last_number: number }>(
    database,
    'UPDATE project SET last_number = greatest(last_number, (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1)) + 1 WHERE id = $1 RETURNING last_number',
    [project.number],
  )
  return { number: counted!.last_number, last: found!.last }
}
/** The nearest place after one (`min`) or before one (`max`) in a project; the last of all where none is given. */
export async function nextPosition(
  database: Sequelize,
  project: Project,
  which: 'min' | 'max',
  from: string | null,
): Promise<string | null> {
  const [found] = await rows<{ position: string | null }>(
    database,
    `SELECT ${which}(position) AS position FROM item WHERE project_id = $1 AND ($2::text IS NULL OR position ${which === 'min' ? '>' : '<'} $2::text COLLATE "C")`,
    [project.number, from],
  )
  return found!.position
}
/** Makes an item; with an idempotency key, asking again gives the item made the first time. */

export const make = async (
  database: Sequelize,
  acting: ActorContext,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> =>
  await inTransaction(database, async () => await makeInside(database, acting, given, key))
