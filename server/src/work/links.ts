import type { Sequelize } from 'sequelize'
import { holdsNow } from '../database/models/columns.ts'
import { modelsOf } from '../database/models/models.ts'
import { linksLead } from '../items/tree.ts'
import { lockLinks } from '../sql/locks.ts'
import { changeItems } from '../items/write.ts'
import { invalid, refused } from '../problems/problem.ts'
import { findItem } from './storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Links one item with another in the direction of the kind's title. What a kind may join, and whether a circle is refused, its definition says. */
export async function linkItems(
  database: Sequelize,
  actor: ActorContext,
  kind: string,
  from: string,
  to: string,
): Promise<void> {
  const { world, person, now } = actor
  const definition = world.document.linkKinds[kind]
  if (!definition || definition.retired)
    throw invalid([
      {
        pointer: '/kind',
        message: 'There is no such link kind.',
        expected: 'the identity of a link kind',
        found: kind,
      },
    ])
  const [a, b] = [
    await findItem(database, actor, from, 'FOR UPDATE'),
    await findItem(database, actor, to, 'FOR UPDATE'),
  ]
  if (a.id === b.id) throw refused('An item is not linked with itself.')
  const type = (row: typeof a): string => world.numbers.identityOf('type', row.row.type_id)
  for (const [end, item] of [
    ['from', a],
    ['to', b],
  ] as const) {
    const allowed = definition[end]
    if (allowed && allowed.length > 0 && !allowed.includes(type(item)))
      throw refused(
        `“${definition.title}” does not join a ${world.document.types[type(item)]!.title} at this end; it takes ${allowed.map((id) => world.document.types[id]?.title ?? id).join(', ')}.`,
      )
  }
  const number = world.numbers.numberOf('linkKind', kind)
  if (definition.refusesCircles) await judgeCircle(database, number, a.id, b.id, definition.title)
  // Both items are locked, so nobody else links them meanwhile.
  const { link } = modelsOf(database)
  const ends = { kindNumber: number, fromId: a.id, toId: b.id }
  if ((await link.count({ where: { ...ends, validTo: holdsNow } })) > 0) return
  await link.create({ ...ends, byId: person.number, validFrom: now })
  for (const item of [a, b]) {
    const held = item.row.link_kinds
    if (!held.includes(number))
      await changeItems(
        database,
        world,
        [item.id],
        { link_kinds: [...held, number].sort((x, y) => x - y) },
        { kind: 'person', number: person.number },
        now,
      )
  }
}

async function judgeCircle(
  database: Sequelize,
  kind: number,
  from: number,
  to: number,
  title: string,
): Promise<void> {
  await lockLinks(database, kind)
  if (await linksLead(database, kind, to, from))
    throw refused(
      `This would close a circle of “${title}”: the other item already leads back here.`,
    )
}
