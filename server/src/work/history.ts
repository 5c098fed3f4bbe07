import type { AnswerOf } from '@bluestem/core/contract'
import { changeInWords, commentChanged, type VersionAnswer } from '@bluestem/core/work'
import { Op, type Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { idByNumber, statesOfItem } from '../items/read.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { notFound } from '../problems/problem.ts'
import { isNumber } from './storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { authorOf, factsOf, itemOfFacts } from '../items/row.ts'

/** Everything that happened to an item, oldest first: each state with its span, who made it, and what changed, in words. */
export async function history(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<AnswerOf<'GET /items/{code}/{number}/history'>> {
  const { world, person } = actor
  const [code, number] = ref.split('/')
  const project = world.projects.find((one) => one.code === code)
  const visible = visibleProjects(world, person)
  const id =
    project && visible.includes(project.number) && isNumber(number)
      ? await idByNumber(database, project.number, Number(number))
      : undefined
  if (id === undefined) throw notFound(`item ${ref}`)
  return { versions: await versions(database, actor, id, visible) }
}

/** The instants at which something said about an item was said otherwise. */
async function rewordings(database: Sequelize, item: number): Promise<ReadonlySet<number>> {
  const found = await modelsOf(database).comment.findAll({
    where: { itemId: item, firstId: { [Op.ne]: null } },
    attributes: ['at'],
  })
  return new Set(found.map(({ at }) => at.getTime()))
}

async function versions(
  database: Sequelize,
  { world }: ActorContext,
  id: number,
  visible: readonly number[],
): Promise<VersionAnswer[]> {
  const states = await statesOfItem(database, world, id, visible)
  const reworded = await rewordings(database, id)
  const facts = states.map((row) => factsOf(world, row))
  return states.map((row, index) => ({
    from: row.valid_from.toISOString(),
    to: row.valid_to instanceof Date ? row.valid_to.toISOString() : null,
    by: authorOf(world, row),
    words: [
      ...changeInWords(facts[index - 1], facts[index]!, world.vocabulary, world.zone),
      ...(reworded.has(row.valid_from.getTime()) ? [[...commentChanged]] : []),
    ],
    state: itemOfFacts(world, facts[index]!),
  }))
}

/** What was changed since the version somebody read, for the answer to a lost race. */
export async function changedSince(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  since: number,
): Promise<Pick<VersionAnswer, 'from' | 'by' | 'words'>[]> {
  const all = await versions(database, actor, id, visibleProjects(actor.world, actor.person))
  return all
    .filter((version) => Date.parse(version.from) > since)
    .map(({ from, by, words }) => ({ from, by, words }))
}
