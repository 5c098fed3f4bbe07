import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { audit, tell } from '../items/write.ts'
import { invalid, judgeMatch, notFound } from '../problems/problem.ts'
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

export async function setKeepers(
  database: Sequelize,
  acting: ActorContext,
  rulebook: string,
  ids: readonly string[],
  match: string,
): Promise<{ body: object; etag: string }> {
  const { world, person, now } = acting
  if (!world.document.rulebooks[rulebook]) throw notFound('rulebook of this identity')
  const people = ids.map((id, index) => {
    const found = world.people.find((one) => one.id === id)
    if (!found)
      throw invalid([
        {
          pointer: `/keepers/${index}`,
          message: 'There is no such person.',
          expected: 'the identity of a person',
          found: id,
        },
      ])
    if (found.role === 'viewer')
      throw invalid([
        {
          pointer: `/keepers/${index}`,
          message: `${found.name} is a viewer, who changes nothing.`,
          expected: 'a member or an administrator',
          found: id,
        },
      ])
    return found
  })
  return await inTransaction(database, async () => {
    // The row of the version is made first and held, so that of two who set keepers one waits for the other.
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
    const before = await rows<{ name: string }>(
      database,
      'SELECT p.name FROM rulebook_keeper k JOIN person p ON p.id = k.person_id WHERE k.rulebook = $1 ORDER BY p.name',
      [rulebook],
    )
    judgeMatch(match, `"${held!.version}"`, { keepers: before.map((one) => one.name) })
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
    await audit(
      database,
      person.number,
      'set keepers',
      `rulebook ${rulebook}`,
      { before: before.map((one) => one.name), after: people.map((one) => one.name) },
      now,
    )
    await tell(database, 'rulebook', rulebook, {}, now)
    return {
      body: { keepers: people.map((one) => ({ id: one.id, title: one.name })) },
      etag: `"${held!.version + 1}"`,
    }
  })
}
