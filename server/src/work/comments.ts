import { certain, firstIn, lastIn } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import { type CommentAnswer, readComment } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { CommentModel } from '../database/models/comment.ts'
import { modelsOf } from '../database/models/models.ts'
import { authorOf } from '../items/row.ts'
import { addFollowers } from '../items/notices.ts'
import { changeItems } from '../items/write.ts'
import { forbidden, notFound } from '../problems/problem.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { personAuthor } from '../workspace/author.ts'
import { holdEdition } from '../workspace/edition.ts'
import { isKeeperOfProject } from '../workspace/rights.ts'
import { followByName } from './follow.ts'
import { problemOf } from './refusal.ts'
import { findItem, isNumber, type StoredItem } from './storedItem.ts'

/** A comment with everything it ever said, oldest first. */
type Wordings = readonly [CommentModel, ...CommentModel[]]

const lastOf = (wordings: Wordings): CommentModel => lastIn(wordings)

/** Somebody took it back: its last wording ended, and says by whom. */
const isTakenBack = (wordings: Wordings): boolean => lastOf(wordings).endedById !== null

/** What is said, as it is kept. @throws Problem for what says nothing */
function textOf(body: string): string {
  const read = readComment(body)
  if (!read.ok) throw problemOf(read.refusal)
  return read.text
}

/** The comments of an item, the earliest first. */
async function commentsOf(database: Sequelize, item: number): Promise<Wordings[]> {
  const found = await modelsOf(database).comment.findAll({
    where: { itemId: item },
    order: ['at', 'id'],
  })
  const all = new Map<number, [CommentModel, ...CommentModel[]]>()
  for (const row of found) {
    const before = row.firstId === null ? undefined : all.get(row.firstId)
    if (before) before.push(row)
    else all.set(row.id, [row])
  }
  return [...all.values()]
}

const mayChange = ({ person }: ActorContext, wordings: Wordings): boolean =>
  !isTakenBack(wordings) && wordings[0].byId === person.number && person.role !== 'viewer'

const mayTakeBack = (actor: ActorContext, { project }: StoredItem, wordings: Wordings): boolean =>
  mayChange(actor, wordings) ||
  (!isTakenBack(wordings) && isKeeperOfProject(actor.world, actor.person, project.id))

function shown(actor: ActorContext, item: StoredItem, wordings: Wordings): CommentAnswer {
  const [first] = wordings
  const last = lastOf(wordings)
  const by = (number: number): CommentAnswer['by'] =>
    authorOf(actor.world, { by_kind: 0, by_id: number })
  const gone = isTakenBack(wordings)
  return {
    id: first.id,
    body: gone ? '' : last.body,
    at: first.at.toISOString(),
    by: by(first.byId),
    earlier: gone
      ? []
      : wordings
          .slice(0, -1)
          .map(({ body, validTo }) => ({ body, until: new Date(validTo).toISOString() })),
    takenBack: gone
      ? {
          at: new Date(last.validTo).toISOString(),
          by: by(certain(last.endedById, 'person who took a comment back')),
        }
      : null,
    mayChange: mayChange(actor, wordings),
    mayTakeBack: mayTakeBack(actor, item, wordings),
  }
}

export async function comments(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<AnswerOf<'GET /items/{code}/{number}/comments'>> {
  const item = await findItem(database, actor, ref)
  const all = await commentsOf(database, item.id)
  return { comments: all.map((wordings) => shown(actor, item, wordings)) }
}

/** Makes a new state of an item that has so many comments. @returns the instant at which it begins */
async function recount(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { id, row, project }: StoredItem,
  ref: string,
  by: 1 | 0 | -1,
): Promise<Date> {
  const values = { comment_count: row.comment_count + by }
  const changed = await changeItems(database, world, [id], values, personAuthor(person), now)
  await announce(database, 'item', ref, { project: project.number }, now)
  return firstIn(changed).row_from
}

/** Adds a comment; it is a new state of the item, whose count of comments moves. */
export async function addComment(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  given: string,
): Promise<void> {
  const body = textOf(given)
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    const item = await findItem(database, actor, ref, 'FOR UPDATE')
    const at = await recount(database, actor, item, ref, 1)
    await addFollowers(database, item.id, [actor.person.number], actor.now)
    await followByName(database, actor, item.id, item.project, body)
    await modelsOf(database).comment.create({
      itemId: item.id,
      body,
      byId: actor.person.number,
      at,
    })
  })
}

/** A comment of an item that is locked. @throws Problem 404 where there is none that still stands */
async function findComment(database: Sequelize, item: StoredItem, id: string): Promise<Wordings> {
  const all = isNumber(id) ? await commentsOf(database, item.id) : []
  const found = all.find(([first]) => first.id === Number(id))
  if (!found || isTakenBack(found)) throw notFound('comment here any more')
  return found
}

/** Says a comment otherwise; what it said before stays to be read. */
export async function changeComment(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  id: string,
  given: string,
): Promise<void> {
  const body = textOf(given)
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    const item = await findItem(database, actor, ref, 'FOR UPDATE')
    const wordings = await findComment(database, item, id)
    if (!mayChange(actor, wordings))
      throw forbidden('Everybody changes only what they said themselves.')
    const last = lastOf(wordings)
    if (last.body === body) return
    const at = await recount(database, actor, item, ref, 0)
    await last.update({ validTo: at })
    const { comment } = modelsOf(database)
    const firstId = wordings[0].id
    await comment.create({ itemId: item.id, body, byId: actor.person.number, at, firstId })
  })
}

/** Takes a comment back: nobody reads it any more, and it stays visible that there was one. */
export async function takeCommentBack(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  id: string,
): Promise<void> {
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    const item = await findItem(database, actor, ref, 'FOR UPDATE')
    const wordings = await findComment(database, item, id)
    if (!mayTakeBack(actor, item, wordings))
      throw forbidden('What others said is taken back by the keepers of the project alone.')
    const at = await recount(database, actor, item, ref, -1)
    await lastOf(wordings).update({ validTo: at, endedById: actor.person.number })
  })
}
