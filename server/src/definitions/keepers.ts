import type { Sequelize } from 'sequelize'
import { inTransaction, run } from '../database/connect.ts'
import { audit, tell } from '../database/write.ts'
import { invalid, notFound } from '../http/problem.ts'
import type { Acting } from '../work/find.ts'

/** Who keeps a rulebook: they may publish what touches it alone, and look after its templates. */
export function keepersOf({ world }: Acting, rulebook: string): object {
  const keepers = world.rulebookKeepers.get(rulebook) ?? new Set()
  return { keepers: world.people.filter((person) => keepers.has(person.number)).map((person) => ({ id: person.id, title: person.name })) }
}

export async function setKeepers(database: Sequelize, acting: Acting, rulebook: string, ids: readonly string[]): Promise<object> {
  const { world, person, now } = acting
  if (!world.document.rulebooks[rulebook]) throw notFound('rulebook of this identity')
  const people = ids.map((id, index) => {
    const found = world.people.find((one) => one.id === id)
    if (!found) throw invalid([{ pointer: `/keepers/${index}`, message: 'There is no such person.', expected: 'the identity of a person', found: id }])
    if (found.role === 'viewer') throw invalid([{ pointer: `/keepers/${index}`, message: `${found.name} is a viewer, who changes nothing.`, expected: 'a member or an administrator', found: id }])
    return found
  })
  return await inTransaction(database, async () => {
    await run(database, 'DELETE FROM rulebook_keeper WHERE rulebook = $1', [rulebook])
    for (const one of people) await run(database, 'INSERT INTO rulebook_keeper (rulebook, person_id) VALUES ($1, $2) ON CONFLICT DO NOTHING', [rulebook, one.number])
    await audit(database, person.number, 'set keepers', `rulebook ${rulebook}`, { before: keepersOf(acting, rulebook), after: people.map((one) => one.name) }, now)
    await tell(database, 'rulebook', rulebook, null, now)
    return { keepers: people.map((one) => ({ id: one.id, title: one.name })) }
  })
}
