import type { NewPerson, PeopleAnswer, PersonAnswer, PersonChange } from '@bluestem/core/people'
import type { Sequelize } from 'sequelize'
import { auditorOf } from '../audit/recorder.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { invalid, notFound, type ProblemDetail, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import type { World } from '../workspace/world.ts'
import type { Person } from '../workspace/living.ts'
import { hashPassword } from './session.ts'
import { endSessions } from './sessions.ts'

const recorded = auditorOf('person')

/** Everybody, those who left last; how they sign in is told to administrators alone. */
export const listPeople = ({ world, person }: ActorContext): PeopleAnswer => ({
  people: world.people
    .map((entry) => answerOf(entry, person.role === 'administrator'))
    .sort((a, b) => Number(b.active) - Number(a.active)),
})

const answerOf = (
  { id, name, email, role, active, hasPassword, version }: Person,
  whole: boolean,
): PersonAnswer => ({
  id,
  name,
  role,
  active,
  ...(whole ? { email, hasPassword, version } : {}),
})

const plain = (email: string): string => email.trim().toLowerCase()

function judgeEmail(world: World, email: string, self?: Person): ProblemDetail[] {
  const twin = world.people.find(
    (person) => person.email === plain(email) && person.id !== self?.id,
  )
  if (!twin) return []
  return [
    {
      pointer: '/email',
      message: `${twin.name} signs in by this address${twin.active ? '' : ', and was deactivated; activate them again instead'}.`,
      expected: 'another address',
      found: email,
    },
  ]
}

function judgeName(name: string): ProblemDetail[] {
  if (name.trim() !== '') return []
  return [
    { pointer: '/name', message: 'A person needs a name.', expected: 'their name', found: name },
  ]
}

/** Adds a person by hand. @throws Problem 400 where somebody has the address */
export const addPerson = async (
  database: Sequelize,
  actor: ActorContext,
  given: NewPerson,
): Promise<PersonAnswer> =>
  await inTransaction(database, async () => await makePerson(database, actor, given))

/** The same within a transaction. Whoever gets no password is to be invited. */
export async function makePerson(
  database: Sequelize,
  actor: ActorContext,
  { name, email, role, password }: NewPerson,
): Promise<PersonAnswer> {
  const wrong = [...judgeName(name), ...judgeEmail(actor.world, email)]
  if (wrong.length > 0) throw invalid(wrong)
  const hashed = password === undefined ? null : await hashPassword(password)
  const id = newIdentity('pe')
  const values = { name: name.trim(), email: plain(email), role }
  await modelsOf(database).person.create({ identity: id, ...values, password: hashed })
  await recorded(database, actor, 'added a person', id, { after: values })
  return { id, ...values, active: true, hasPassword: hashed !== null, version: 1 }
}

/** Who a person is after a change. @throws Problem 400 where they cannot be */
function judged(
  world: World,
  before: Person,
  given: Omit<PersonChange, 'password'>,
): Pick<Person, 'name' | 'email' | 'role' | 'active'> {
  const { name = before.name, email = before.email, role = before.role } = given
  const wrong = [...judgeName(name), ...judgeEmail(world, email, before)]
  if (wrong.length > 0) throw invalid(wrong)
  return { name: name.trim(), email: plain(email), role, active: given.active ?? before.active }
}

/** Changes who a person is and what they may do. */
export const changePerson = async (
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: PersonChange,
  match: string,
): Promise<PersonAnswer> =>
  await inTransaction(database, async () => await writePerson(database, actor, id, given, match))

/** The same within a transaction. Whoever is deactivated, or has a new password, is signed out at once. */
export async function writePerson(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  { password, ...given }: PersonChange,
  match: string,
): Promise<PersonAnswer> {
  const before = actor.world.people.find((person) => person.id === id)
  if (!before) throw notFound('person of this identity')
  const after = judged(actor.world, before, given)
  const hashed = password === undefined ? {} : { password: await hashPassword(password) }
  const { invitation, person } = modelsOf(database)
  const version = await changeVersion(person, id, match, { ...after, ...hashed })
  await judgeAdministrators(database)
  const isKnown = after.active && password === undefined
  if (!isKnown) await endSessions(database, before.number)
  if (!isKnown) await invitation.destroy({ where: { personId: before.number } })
  const { name, email, role, active, hasPassword } = before
  await recorded(database, actor, 'changed a person', id, {
    before: { name, email, role, active },
    after: { ...after, ...(password === undefined ? {} : { password: 'a new one' }) },
  })
  return { id, ...after, hasPassword: hasPassword || password !== undefined, version }
}

/** Somebody must be left who can define and add people. Whoever changes the last two at once waits for the other. */
async function judgeAdministrators(database: Sequelize): Promise<void> {
  const left = await modelsOf(database).person.findAll({
    attributes: ['id'],
    where: { role: 'administrator', active: true },
    lock: true,
  })
  if (left.length === 0)
    throw refused(
      'Nobody would be left who may add people and define. Make somebody else an administrator first.',
    )
}
