import type { Person } from '../workspace/world.ts'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { announce, audit } from '../items/write.ts'
import { invalid, judgeMatch, notFound, noSuchPerson } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Who keeps a rulebook: they may publish what touches it alone, and look after its templates. */
export async function keepersOf(
  database: Sequelize,
  { world }: ActorContext,
  rulebook: string,
): Promise<{ body: object; etag: string }> {
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
  (
    await rows<{ version: number }>(
      database,
      'SELECT version FROM rulebook_keeping WHERE rulebook = $1',
      [rulebook],
    )
  )[0]?.version ?? 0

/** People who may keep a rulebook. @throws Problem for who is not there or changes nothing */
const keepersAmong = (people: readonly Person[], ids: readonly string[]): Person[] =>
  ids.map((id, index) => {
    const pointer = `/keepers/${index}`
    const person = people.find((one) => one.id === id)
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

/** Takes the version of who keeps a rulebook, and holds it: of two who set keepers one waits for the other. */
async function holdKeeping(database: Sequelize, rulebook: string): Promise<number> {
  await run(
    database,
    'INSERT INTO rulebook_keeping (rulebook, version) VALUES ($1, 0) ON CONFLICT DO NOTHING',
    [rulebook],
  )
  const [held] = await rows<{ version: number }>(
    database,
    'SELECT version FROM rulebook_keeping WHERE rulebook = $1 FOR UPDATE',
    [rulebook],
  )
  return held!.version
}

async function replaceKeepers(
  database: Sequelize,
  rulebook: string,
  people: readonly Person[],
): Promise<void> {
  await run(database, 'UPDATE rulebook_keeping SET version = version + 1 WHERE rulebook = $1', [
    rulebook,
  ])
  await run(database, 'DELETE FROM rulebook_keeper WHERE rulebook = $1', [rulebook])
  for (const one of people)
    await run(
      database,
      'INSERT INTO rulebook_keeper (rulebook, person_id) VALUES ($1, $2) ON CONFLICT DO NOTHING',
      [rulebook, one.number],
    )
}

/** Sets who keeps a rulebook. @throws Problem 412 when somebody else did so since `match` */
export async function setKeepers(
  database: Sequelize,
  actor: ActorContext,
  rulebook: string,
  ids: readonly string[],
  match: string,
): Promise<{ body: object; etag: string }> {
  const { world, person, now } = actor
  if (!world.document.rulebooks[rulebook]) throw notFound('rulebook of this identity')
  const people = keepersAmong(world.people, ids)
  return await inTransaction(database, async () => {
    const version = await holdKeeping(database, rulebook)
    const keepers = await rows<{ name: string }>(
      database,
      'SELECT p.name FROM rulebook_keeper k JOIN person p ON p.id = k.person_id WHERE k.rulebook = $1 ORDER BY p.name',
      [rulebook],
    )
    const before = keepers.map((one) => one.name)
    judgeMatch(match, `"${version}"`, { keepers: before })
    await replaceKeepers(database, rulebook, people)
    const after = people.map((one) => one.name)
    const subject = `rulebook ${rulebook}`
    await audit(database, person.number, 'set keepers', subject, { before, after }, now)
    await announce(database, 'rulebook', rulebook, {}, now)
    return {
      body: { keepers: people.map((one) => ({ id: one.id, title: one.name })) },
      etag: `"${version + 1}"`,
    }
  })
}
