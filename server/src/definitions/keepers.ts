import { certain } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import type { Person } from '../workspace/living.ts'
import { type Sequelize, Transaction } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { RulebookKeepingModel } from '../database/models/rulebookKeeping.ts'
import { modelsOf } from '../database/models/models.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import { invalid, judgeMatch, noSuchPerson, notFound } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Who keeps a rulebook: they may publish what touches it alone, and look after its templates. */
export async function keepersOf(
  database: Sequelize,
  { world }: ActorContext,
  rulebook: string,
): Promise<{ body: AnswerOf<'GET /definitions/rulebooks/{id}/keepers'>; etag: string }> {
  const keepers = world.rulebookKeepers.get(rulebook) ?? new Set()
  return {
    body: {
      keepers: world.people
        .filter((person) => keepers.has(person.number))
        .map((person) => ({ id: person.id, title: person.name })),
    },
    etag: `"${await versionOf(database, rulebook)}"`,
  }
}

const versionOf = async (database: Sequelize, rulebook: string): Promise<number> =>
  (await modelsOf(database).rulebookKeeping.findByPk(rulebook))?.version ?? 0

/** People who may keep a rulebook. @throws Problem for who is not there or changes nothing */
const keepersAmong = (people: readonly Person[], ids: readonly string[]): Person[] =>
  ids.map((id, index) => {
    const pointer = `/keepers/${index}`
    const person = people.find((person) => person.id === id)
    if (!person) throw invalid([noSuchPerson(pointer, id)])
    if (person.role === 'viewer')
      throw invalid([
        {
          pointer,
          message: `${person.name} is a viewer, who changes nothing.`,
          expected: 'a member or an administrator',
          found: id,
        },
      ])
    return person
  })

/** Takes the version of who keeps a rulebook, and locks it: of two who set keepers one waits for the other. */
async function lockKeeping(database: Sequelize, rulebook: string): Promise<RulebookKeepingModel> {
  const { rulebookKeeping } = modelsOf(database)
  await rulebookKeeping.bulkCreate([{ rulebook, version: 0 }], { ignoreDuplicates: true })
  const locked = await rulebookKeeping.findByPk(rulebook, {
    lock: Transaction.LOCK.UPDATE,
    rejectOnEmpty: true,
  })
  return locked
}

async function replaceKeepers(
  database: Sequelize,
  keeping: RulebookKeepingModel,
  people: readonly Person[],
): Promise<void> {
  const { rulebookKeeper } = modelsOf(database)
  const { rulebook } = keeping
  keeping.changed('version', true)
  await keeping.save()
  await rulebookKeeper.destroy({ where: { rulebook } })
  await rulebookKeeper.bulkCreate(
    people.map((person) => ({ rulebook, personId: person.number })),
    { ignoreDuplicates: true },
  )
}

/** Sets who keeps a rulebook. @throws Problem 412 when somebody else did so since `match` */
export async function setKeepers(
  database: Sequelize,
  actor: ActorContext,
  rulebook: string,
  ids: readonly string[],
  match: string,
): Promise<{ body: AnswerOf<'GET /definitions/rulebooks/{id}/keepers'>; etag: string }> {
  const { world, person, now } = actor
  if (!world.document.rulebooks[rulebook]) throw notFound('rulebook of this identity')
  const people = keepersAmong(world.people, ids)
  return await inTransaction(database, async () => {
    const { person: personModel, rulebookKeeper } = modelsOf(database)
    const keeping = await lockKeeping(database, rulebook)
    const { version } = keeping
    const keepers = await rulebookKeeper.findAll({
      where: { rulebook },
      include: [{ model: personModel, as: 'person' }],
    })
    const before = keepers.map((keeper) => certain(keeper.person, 'person of a keeper').name).sort()
    judgeMatch(match, `"${version}"`, { keepers: before })
    await replaceKeepers(database, keeping, people)
    const after = people.map((person) => person.name)
    const subject = `rulebook ${rulebook}`
    await audit(database, person.number, 'set keepers', subject, { before, after }, now)
    await announce(database, 'rulebook', rulebook, {}, now)
    return {
      body: { keepers: people.map((person) => ({ id: person.id, title: person.name })) },
      etag: `"${version + 1}"`,
    }
  })
}
