import type { AnswerOf } from '@bluestem/core/contract'
import type { NewSubscription, SubscriptionAnswer } from '@bluestem/core/exchange'
import type { Express } from 'express'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { SubscriptionModel } from '../database/models/subscription.ts'
import { originOf } from '../http/origin.ts'
import { Problem, notFound, refused } from '../problems/problem.ts'
import { readSavedFilter } from '../queries/filter.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { digestOf, newSecret } from '../workspace/secret.ts'
import { seenBy } from '../workspace/visibility.ts'
import type { Worlds } from '../workspace/world.ts'
import { exportAnswers, judgeDate } from './export.ts'

/** How many addresses one person may have. */
const most = 50
/** The path under which programs read, and how the files of each form end. */
const path = '/subscriptions'
const endings = { icalendar: 'ics', atom: 'atom' } as const

const shown = ({
  identity,
  title,
  question,
  at,
  readAt,
}: SubscriptionModel): SubscriptionAnswer => ({
  id: identity,
  title,
  format: question.format,
  at: at.toISOString(),
  readAt: readAt?.toISOString() ?? null,
})

/** The addresses somebody made, the latest first. The secrets in them are not known any more. */
export async function subscriptions(
  database: Sequelize,
  { person }: ActorContext,
): Promise<AnswerOf<'GET /subscriptions'>> {
  const found = await modelsOf(database).subscription.findAll({
    where: { personId: person.number },
    order: [['id', 'DESC']],
  })
  return { subscriptions: found.map(shown) }
}

/**
 * Makes an address under which a program reads the answers of a question as whoever makes it may see them at that time.
 *
 * @param origin where the application answers
 */
export async function subscribe(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { title, ...asked }: NewSubscription,
  origin: string,
): Promise<AnswerOf<'POST /subscriptions'>> {
  readSavedFilter(world, asked.filter)
  const question = { ...asked, kept: true, title }
  judgeDate(world, question)
  const { subscription } = modelsOf(database)
  if ((await subscription.count({ where: { personId: person.number } })) >= most)
    throw refused(`You have ${most} addresses already; end one of them first.`)
  const secret = newSecret()
  const made = await subscription.create({
    identity: newIdentity('su'),
    digest: digestOf(secret),
    personId: person.number,
    title,
    question,
    at: now,
  })
  const address = `${origin}${path}/${secret}.${endings[asked.format]}`
  return { ...shown(made), address }
}

/** Ends an address: nobody reads it any more. */
export async function endSubscription(
  database: Sequelize,
  { person }: ActorContext,
  identity: string,
): Promise<void> {
  const ended = await modelsOf(database).subscription.destroy({
    where: { identity, personId: person.number },
  })
  if (ended === 0) throw notFound('address of this identity')
}

interface Reading {
  readonly database: Sequelize
  readonly worlds: Worlds
  readonly clock: () => Date
}

/** Answers programs that read an address. Whoever has it reads what its maker may see; one that was ended, or whose maker left, is none. */
export function readable(app: Express, { database, worlds, clock }: Reading): void {
  app.get(`${path}/:file`, async (request, response) => {
    const secret = /^([\w-]{43})\.(ics|atom)$/.exec(request.params.file)?.[1]
    const found =
      secret === undefined
        ? null
        : await modelsOf(database).subscription.findOne({ where: { digest: digestOf(secret) } })
    const world = await worlds.now()
    const person = world.people.find(({ number }) => number === found?.personId)
    if (!found || !person?.active)
      throw new Problem(404, 'Not found', 'There is no such address, or it was ended.')
    const now = clock()
    const actor = { world: seenBy(world, person), person, now }
    const { text, type } = await exportAnswers(database, actor, found.question, originOf(request))
    await found.update({ readAt: now })
    response.setHeader('Cache-Control', 'private, no-store')
    response.setHeader('Content-Type', type)
    response.end(text)
  })
}

/** An address as a log may hold it: without its secret. */
export const withoutSecret = (url: string): string =>
  url.replace(/^(\/subscriptions\/)[^/?]+/, '$1…')
