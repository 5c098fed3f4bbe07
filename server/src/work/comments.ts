import type { AnswerOf } from '@bluestem/core/contract'
import type { Sequelize } from 'sequelize'
import { stale } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { changedSince } from './history.ts'
import { authorOf, type ItemRow } from '../items/row.ts'
import { findItem, stateMeant } from './storedItem.ts'
import { readComment } from '@bluestem/core/work'
import { problemOf } from './refusal.ts'
import { inTransaction } from '../database/connect.ts'
import { holdsNow } from '../database/models/columns.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeItems } from '../items/write.ts'
import { announce } from '../sql/outbox.ts'
import { personAuthor } from '../workspace/author.ts'
import { holdEdition } from '../workspace/edition.ts'

/** A state that only an edition or a merge rewrote since it was read is nobody's change. @throws Problem 412 with what others changed */
export async function judgeRead(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  row: ItemRow,
  match: string,
): Promise<void> {
  const meant = stateMeant(match)
  if (meant === undefined || meant === row.row_from.getTime()) return
  const changed = await changedSince(database, actor, id, meant)
  if (
    changed.length === 0 ||
    changed.some((one) => one.by.kind !== 'edition' && one.by.kind !== 'merge')
  )
    throw stale(changed)
}

const insertComment = async (
  database: Sequelize,
  { person }: ActorContext,
  id: number,
  body: string,
  at: Date,
): Promise<void> =>
  void (await modelsOf(database).comment.create({ itemId: id, body, byId: person.number, at }))

/** Adds a comment; it is a new state of the item, whose count of comments moves. */
export async function addComment(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  body: string,
): Promise<void> {
  const read = readComment(body)
  if (!read.ok) throw problemOf(read.refusal)
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    const { row, id, project } = await findItem(database, actor, ref, 'FOR UPDATE')
    const [changed] = await changeItems(
      database,
      actor.world,
      [id],
      { comment_count: row.comment_count + 1 },
      personAuthor(actor.person),
      actor.now,
    )
    await insertComment(database, actor, id, read.text, changed!.row_from)
    await announce(database, 'item', ref, { project: project.number }, actor.now)
  })
}

export async function comments(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<AnswerOf<'GET /items/{code}/{number}/comments'>> {
  const { id } = await findItem(database, actor, ref)
  const found = await modelsOf(database).comment.findAll({
    where: { itemId: id, validTo: holdsNow },
    order: ['at', 'id'],
  })
  return {
    comments: found.map(({ id: number, body, byId, at }) => ({
      id: number,
      body,
      at: at.toISOString(),
      by: authorOf(actor.world, { by_kind: 0, by_id: byId }),
    })),
  }
}
