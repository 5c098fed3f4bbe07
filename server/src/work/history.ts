import { valueFor } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import type { Facts, ItemAnswer } from '@bluestem/core/queries'
import { changeInWords, commentChanged, type VersionAnswer } from '@bluestem/core/work'
import { Op, type Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { idByNumber, statesOfItems } from '../items/read.ts'
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
  const project = world.projects.find((project) => project.code === code)
  const visible = visibleProjects(world, person)
  const id =
    project && visible.includes(project.number) && isNumber(number)
      ? await idByNumber(database, project.number, Number(number))
      : undefined
  if (id === undefined) throw notFound(`item ${ref}`)
  const all = await versionsOf(database, actor, [id], visible)
  return { versions: valueFor(all, id) }
}

/** The instants at which something said about items was said otherwise, each with its item. */
async function rewordings(
  database: Sequelize,
  items: readonly number[],
): Promise<ReadonlySet<string>> {
  const found = await modelsOf(database).comment.findAll({
    where: { itemId: [...items], firstId: { [Op.ne]: null } },
    attributes: ['itemId', 'at'],
  })
  return new Set(found.map(({ itemId, at }) => `${itemId} ${at.getTime()}`))
}

/** What happened to items, each oldest first, by their ids. */
export async function versionsOf(
  database: Sequelize,
  { world }: ActorContext,
  ids: readonly number[],
  visible: readonly number[],
): Promise<ReadonlyMap<number, VersionAnswer[]>> {
  const states = await statesOfItems(database, world, ids, visible)
  const reworded = await rewordings(database, ids)
  const all = new Map<number, VersionAnswer[]>(ids.map((id) => [id, []]))
  let before: { readonly id: number; readonly facts: Facts } | undefined
  for (const row of states) {
    const facts = factsOf(world, row)
    const earlier = before?.id === row.id ? before.facts : undefined
    const isRewording = reworded.has(`${row.id} ${row.valid_from.getTime()}`)
    valueFor(all, row.id).push({
      from: row.valid_from.toISOString(),
      to: row.valid_to instanceof Date ? row.valid_to.toISOString() : null,
      by: authorOf(world, row),
      words: [
        ...changeInWords(earlier, facts, world.vocabulary, world.zone),
        ...(isRewording ? [[...commentChanged]] : []),
      ],
      // The same properties as an item that is read, by the same vocabulary.
      state: itemOfFacts(world, facts) as ItemAnswer,
    })
    before = { id: row.id, facts }
  }
  return all
}

/** What was changed since the version somebody read, for the answer to a lost race. */
export async function changedSince(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  since: number,
): Promise<Pick<VersionAnswer, 'from' | 'by' | 'words'>[]> {
  const visible = visibleProjects(actor.world, actor.person)
  const all = await versionsOf(database, actor, [id], visible)
  return valueFor(all, id)
    .filter((version) => Date.parse(version.from) > since)
    .map(({ from, by, words }) => ({ from, by, words }))
}
