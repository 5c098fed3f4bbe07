import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'
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
  const type = (row: typeof a): string =>
    world.numbers.identity('type', row.row['type_id'] as number)!
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
  const number = world.numbers.of('linkKind', kind)!
  if (definition.refusesCircles) await judgeCircle(database, number, a.id, b.id, definition.title)
  const [made] = await rows<{ id: number }>(
    database,
    `INSERT INTO link (kind_number, from_id, to_id, by_id, valid_from) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING RETURNING id`,
    [number, a.id, b.id, person.number, now],
  )
  if (!made) return
  for (const item of [a, b]) {
    const held = item.row['link_kinds'] as number[]
    if (!held.includes(number))
      await changeItems(
        database,
        world.columns,
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
  await run(database, 'SELECT pg_advisory_xact_lock(7103, $1)', [kind])
  const [circle] = await rows<{ found: boolean }>(
    database,
    `WITH RECURSIVE on_way(id) AS (SELECT $2::int UNION SELECT l.to_id FROM on_way w JOIN link l ON l.from_id = w.id AND l.kind_number = $1 AND l.valid_to = 'infinity') SELECT EXISTS (SELECT FROM on_way WHERE id = $3) AS found`,
    [kind, to, from],
  )
  if (circle!.found)
    throw refused(
      `This would close a circle of “${title}”: the other item already leads back here.`,
    )
}
