import { valueFor } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import { type FollowersAnswer, mostNotices, type NoticeAnswer } from '@bluestem/core/notices'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { addFollowers, type NoticeRow, noticeRows, rememberLooks } from '../items/notices.ts'
import { choiceShown, refOf } from '../items/row.ts'
import { forbidden, invalid, noSuchPerson } from '../problems/problem.ts'
import { mayHear } from '../work/follow.ts'
import { versionsOf } from '../work/history.ts'
import { findItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'

/** For how long changes of items that are somebody's are news where they never looked, in days. */
const daysOfNews = 30

async function newRows(
  database: Sequelize,
  { world, person, now }: ActorContext,
  most: number,
): Promise<NoticeRow[]> {
  const earliest = new Date(now.getTime() - daysOfNews * 86_400_000)
  return await noticeRows(database, person.number, visibleProjects(world, person), earliest, most)
}

/** What others changed of what one follows or has, since one last looked. */
export async function notices(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /notices'>> {
  const { world, person } = actor
  const found = await newRows(database, actor, mostNotices)
  const ids = found.map(({ id }) => id)
  const versions = await versionsOf(database, actor, ids, visibleProjects(world, person))
  const shown = (row: NoticeRow): NoticeAnswer => ({
    ref: refOf(world, row),
    title: row.title,
    type: choiceShown(world, 'type', world.numbers.identityOf('type', row.type_id), ''),
    status: choiceShown(world, 'status', world.numbers.identityOf('status', row.status_id), ''),
    changes: valueFor(versions, row.id)
      .filter(({ from, by }) => Date.parse(from) > row.since.getTime() && by.id !== person.id)
      .map(({ from, by, words }) => ({ from, by, words }))
      .toReversed(),
  })
  return { notices: found.map(shown), total: found[0]?.total ?? 0 }
}

/** How many items have something new. */
export const countNotices = async (
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /notices/count'>> => ({
  count: (await newRows(database, actor, 1))[0]?.total ?? 0,
})

/** Remembers that one looked at items; without refs, at everything that is new. */
export async function lookedAt(
  database: Sequelize,
  actor: ActorContext,
  refs: readonly string[] | undefined,
): Promise<void> {
  const ids =
    refs === undefined
      ? (await newRows(database, actor, 100_000)).map(({ id }) => id)
      : await Promise.all(refs.map(async (ref) => (await findItem(database, actor, ref)).id))
  await rememberLooks(database, actor.person.number, ids, actor.now)
}

/** Remembers that one looked at an item. @returns when one did so before */
export async function lookAt(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<AnswerOf<'POST /items/{code}/{number}/looked'>> {
  const { id } = await findItem(database, actor, ref)
  const personId = actor.person.number
  const before = await modelsOf(database).look.findOne({ where: { personId, itemId: id } })
  await rememberLooks(database, personId, [id], actor.now)
  return { before: before?.at.toISOString() ?? null }
}

export async function followers(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<FollowersAnswer> {
  const { id } = await findItem(database, actor, ref)
  const { world, person } = actor
  const found = await modelsOf(database).follower.findAll({
    where: { itemId: id },
    order: ['since', 'personId'],
  })
  const people = found.flatMap(
    ({ personId }) => world.people.find(({ number }) => number === personId) ?? [],
  )
  return {
    followers: people.map((person) => ({ id: person.id, title: person.name })),
    isFollowed: people.some((entry) => entry.id === person.id),
  }
}

/** @throws Problem 403 for a viewer who means somebody else */
function judgeOther({ person }: ActorContext, other: string): void {
  if (person.role === 'viewer' && other !== person.id)
    throw forbidden('Viewers follow for themselves alone.')
}

/** Makes somebody hear of an item. @throws Problem where they may not see it */
export async function follow(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  other: string,
): Promise<FollowersAnswer> {
  judgeOther(actor, other)
  const { world, now } = actor
  const { id, project } = await findItem(database, actor, ref)
  const person = world.people.find((person) => person.id === other)
  if (!person) throw invalid([noSuchPerson('/person', other)])
  if (!mayHear(world, person, project))
    throw invalid([
      {
        pointer: '/person',
        message: `${person.name} may not see the items of ${project.title}.`,
        expected: 'somebody who may',
        found: person.name,
      },
    ])
  await addFollowers(database, id, [person.number], now)
  return await followers(database, actor, ref)
}

/** Lets somebody hear no more of an item, unless it is theirs. */
export async function unfollow(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  other: string,
): Promise<void> {
  judgeOther(actor, other)
  const { id } = await findItem(database, actor, ref)
  const person = actor.world.people.find((person) => person.id === other)
  if (!person) throw invalid([noSuchPerson('/person', other)])
  await modelsOf(database).follower.destroy({ where: { itemId: id, personId: person.number } })
}
