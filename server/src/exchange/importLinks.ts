import type { RowLink } from '@bluestem/core/exchange'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { changeItems } from '../items/write.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Author } from '../workspace/author.ts'
import type { FileGround } from './judgeFile.ts'

/** How many links are written in one statement. */
const atATime = 1000

/** The kinds of link that items come to hold, by ref, with those they hold already; items that hold them all are left out. */
function kindsHeld(
  { world }: ActorContext,
  { items }: FileGround,
  links: readonly RowLink[],
): ReadonlyMap<string, readonly number[]> {
  const held = new Map<string, Set<number>>()
  for (const { kind, from, to } of links)
    for (const ref of [from, to]) {
      const kinds = held.get(ref) ?? new Set(items.get(ref)?.row.link_kinds)
      held.set(ref, kinds.add(world.numbers.numberOf('linkKind', kind)))
    }
  return new Map(
    [...held]
      .filter(([ref, kinds]) => kinds.size > (items.get(ref)?.row.link_kinds.length ?? 0))
      .map(([ref, kinds]) => [ref, [...kinds].sort((a, b) => a - b)]),
  )
}

/** Makes the links of a file between items that are locked or made by the same transaction. */
export async function writeLinks(
  database: Sequelize,
  actor: ActorContext,
  ground: FileGround,
  links: readonly RowLink[],
  idOf: (ref: string) => number,
): Promise<void> {
  const { world, person, now } = actor
  const author: Author = { kind: 'import', number: person.number }
  for (let from = 0; from < links.length; from += atATime)
    await modelsOf(database).link.bulkCreate(
      links.slice(from, from + atATime).map((link) => ({
        kindNumber: world.numbers.numberOf('linkKind', link.kind),
        fromId: idOf(link.from),
        toId: idOf(link.to),
        byId: person.number,
        validFrom: now,
      })),
    )
  const alike = new Map<string, { readonly kinds: readonly number[]; readonly ids: number[] }>()
  for (const [ref, kinds] of kindsHeld(actor, ground, links)) {
    const key = kinds.join()
    const group = alike.get(key) ?? { kinds, ids: [] }
    group.ids.push(idOf(ref))
    alike.set(key, group)
  }
  for (const { kinds, ids } of alike.values())
    for (let from = 0; from < ids.length; from += atATime)
      await changeItems(
        database,
        world,
        ids.slice(from, from + atATime),
        { link_kinds: kinds },
        author,
        now,
      )
  await tellThose(database, actor, ground, links)
}

/** Whoever looks at an item that was there hears of its links. */
async function tellThose(
  database: Sequelize,
  { now }: ActorContext,
  { items }: FileGround,
  links: readonly RowLink[],
): Promise<void> {
  const ends = new Set(links.flatMap(({ from, to }) => [from, to]))
  for (const ref of ends) {
    const item = items.get(ref)
    if (item) await announce(database, 'item', ref, { project: item.project.number }, now)
  }
}
