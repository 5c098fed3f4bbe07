import { entryOf } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import type { ShownChoice } from '@bluestem/core/schema'
import { type NewLink, whyNotJoined } from '@bluestem/core/work'
import { Op, type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { holdsNow } from '../database/models/columns.ts'
import { modelsOf } from '../database/models/models.ts'
import { choiceShown, refOf } from '../items/row.ts'
import { linksLead, linksOfItem } from '../items/tree.ts'
import { lockLinks } from '../sql/locks.ts'
import { changeItems } from '../items/write.ts'
import { invalid, notFound, refused } from '../problems/problem.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { personAuthor } from '../workspace/author.ts'
import { holdEdition } from '../workspace/edition.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { findItem, type StoredItem } from './storedItem.ts'

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
  const why = whyNotJoined(world.document, kind, { from: type(a), to: type(b) })
  if (why) throw refused(why)
  const number = world.numbers.numberOf('linkKind', kind)
  if (definition.refusesCircles) await judgeCircle(database, number, a.id, b.id, definition.title)
  // Both items are locked, so nobody else links them meanwhile.
  const { link } = modelsOf(database)
  const ends = { kindNumber: number, fromId: a.id, toId: b.id }
  if ((await link.count({ where: { ...ends, validTo: holdsNow } })) > 0) return
  await link.create({ ...ends, byId: person.number, validFrom: now })
  for (const item of [a, b]) await holdKind(database, actor, item, number, true)
}

/** Lets an item hold a kind of link, or no more. Whoever looks at it is told, for its links are others. */
async function holdKind(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { id, row, project }: StoredItem,
  kind: number,
  isHeld: boolean,
): Promise<void> {
  const held = row.link_kinds
  await announce(database, 'item', refOf(world, row), { project: project.number }, now)
  if (held.includes(kind) === isHeld) return
  const kinds = isHeld
    ? [...held, kind].sort((a, b) => a - b)
    : held.filter((number) => number !== kind)
  await changeItems(database, world, [id], { link_kinds: kinds }, personAuthor(person), now)
}

/** The links of an item with what is at their other ends, as far as that may be seen. */
export async function links(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<AnswerOf<'GET /items/{code}/{number}/links'>> {
  const { world, person } = actor
  const { id } = await findItem(database, actor, ref)
  const found = await linksOfItem(database, id, visibleProjects(world, person))
  return {
    links: found.map((row) => {
      const kind = world.numbers.identityOf('linkKind', row.kind)
      const { title, inverse } = entryOf(world.document.linkKinds, kind)
      const project = world.numbers.identityOf('project', row.project_id)
      const shown = (domain: 'type' | 'status', number: number): ShownChoice =>
        choiceShown(world, domain, world.numbers.identityOf(domain, number), project)
      return {
        id: row.link,
        kind,
        direction: row.out ? 'out' : 'in',
        words: row.out ? title : inverse,
        ref: refOf(world, row),
        title: row.title,
        type: shown('type', row.type_id),
        status: shown('status', row.status_id),
      }
    }),
  }
}

/** Links an item with another, in either direction of the kind. */
export async function addLink(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  { kind, direction, to }: NewLink,
): Promise<void> {
  const [from, end] = direction === 'out' ? [ref, to] : [to, ref]
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    await linkItems(database, actor, kind, from, end)
  })
}

/** Ends a link. Its history stays. @throws Problem 404 for one that the item does not have */
export async function endLink(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  link: number,
): Promise<void> {
  const { world, person, now } = actor
  await inTransaction(database, async () => {
    await holdEdition(database, world)
    const item = await findItem(database, actor, ref, 'FOR UPDATE')
    const all = await linksOfItem(database, item.id, visibleProjects(world, person))
    const ended = all.find((row) => row.link === link)
    if (!ended) throw notFound('such link of this item')
    await modelsOf(database).link.update({ validTo: now }, { where: { id: link } })
    const other = await findItem(database, actor, refOf(world, ended), 'FOR UPDATE')
    for (const end of [item, other]) {
      const left = await modelsOf(database).link.count({
        where: {
          kindNumber: ended.kind,
          validTo: holdsNow,
          [Op.or]: [{ fromId: end.id }, { toId: end.id }],
        },
      })
      await holdKind(database, actor, end, ended.kind, left > 0)
    }
  })
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
