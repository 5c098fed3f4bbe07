import type { AcceptedInvitation, InvitationAnswer, InvitedAnswer } from '@bluestem/core/people'
import type { Sequelize } from 'sequelize'
import { auditorOf } from '../audit/recorder.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { notFound, Problem, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { digestOf, newSecret } from '../workspace/secret.ts'
import type { World, Worlds } from '../workspace/world.ts'
import type { Person } from '../workspace/living.ts'
import { hashPassword } from './session.ts'
import { endSessions } from './sessions.ts'

const recorded = auditorOf('person')

/** How long an invitation holds, in milliseconds: a week. */
const holds = 7 * 86_400_000

/**
 * Makes an address by which a person chooses a password and comes in, whether they have one already or not. One made before ends.
 *
 * @param origin where the application answers
 */
export async function invite(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  origin: string,
): Promise<InvitationAnswer> {
  const invited = actor.world.people.find((person) => person.id === id)
  if (!invited) throw notFound('person of this identity')
  if (!invited.active)
    throw refused(`${invited.name} may not sign in; let them sign in again first.`)
  return await inTransaction(
    database,
    async () => await makeInvitation(database, actor, invited, origin),
  )
}

/** The same within a transaction, for one who may sign in. */
export async function makeInvitation(
  database: Sequelize,
  actor: ActorContext,
  { id, number }: Pick<Person, 'id' | 'number'>,
  origin: string,
): Promise<InvitationAnswer> {
  const { person, now } = actor
  const { invitation } = modelsOf(database)
  const secret = newSecret()
  const until = new Date(now.getTime() + holds)
  await invitation.destroy({ where: { personId: number } })
  await invitation.create({
    digest: digestOf(secret),
    personId: number,
    byId: person.number,
    until,
  })
  await recorded(database, actor, 'invited a person', id, { after: { until } })
  // Behind the number sign it is in no request, so no log and no proxy ever holds it.
  return { address: `${origin}/welcome#${secret}`, until: until.toISOString() }
}

/** Whom a secret invites. @throws Problem 404 where it invites nobody any more */
async function invitedBy(
  database: Sequelize,
  world: World,
  secret: string,
  now: Date,
): Promise<Person> {
  const found = await modelsOf(database).invitation.findOne({
    where: { digest: digestOf(secret) },
  })
  const person = world.people.find(({ number }) => number === found?.personId)
  if (!found || !person?.active || found.until < now)
    throw new Problem(
      404,
      'Not found',
      'This invitation was used, was replaced by another, or is over. Ask whoever sent it for a new one.',
    )
  return person
}

/** Tells somebody who comes by an invitation whom it is for. */
export async function readInvitation(
  database: Sequelize,
  worlds: Worlds,
  secret: string,
  now: Date,
): Promise<InvitedAnswer> {
  const world = await worlds.now()
  const { name, email } = await invitedBy(database, world, secret, now)
  return { name, email, workspace: world.title }
}

/** Gives whoever is invited the password they chose, and ends the invitation; whoever is signed in by an earlier one is signed out. @returns their number */
export async function acceptInvitation(
  database: Sequelize,
  worlds: Worlds,
  { secret, password }: AcceptedInvitation,
  now: Date,
): Promise<number> {
  const world = await worlds.now()
  const person = await invitedBy(database, world, secret, now)
  const hashed = await hashPassword(password)
  await inTransaction(database, async () => {
    const { invitation, person: people } = modelsOf(database)
    // Of two who come by the same address at once, one finds it used.
    const used = await invitation.destroy({ where: { digest: digestOf(secret) } })
    if (used === 0) await invitedBy(database, world, secret, now)
    await people.update({ password: hashed }, { where: { id: person.number } })
    await endSessions(database, person.number)
    await recorded(database, { world, person, now }, 'accepted an invitation', person.id, {})
  })
  return person.number
}
