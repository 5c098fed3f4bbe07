import { certain, elementAt, firstIn } from '@bluestem/core/known'
import {
  added,
  type ChangeOf,
  type EditItem,
  type ItemChange,
  type Judged,
  judgeEdits,
} from '@bluestem/core/work'
import type { Facts } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { type ItemWrite, writeItem, writeItems, type WrittenItem } from '../items/change.ts'
import { refOf } from '../items/row.ts'
import { lockTree } from '../sql/locks.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { type Author, personAuthor } from '../workspace/author.ts'
import type { World } from '../workspace/world.ts'
import { columnValues } from './columns.ts'
import { followByName } from './follow.ts'
import { judgeRead } from './judgeRead.ts'
import { type GroundAsked, type LoadedGround, loadGround, needsAround } from './ground.ts'
import { besideOf, placed } from './position.ts'
import { problemOf } from './refusal.ts'
import { withNumbers } from './numbers.ts'
import { rulesFor } from './rules.ts'
import { type StoredItem, findToEdit } from './storedItem.ts'

type Accepted = Extract<Judged, { ok: true }>

/** What is written of an accepted change; undefined where nothing differs and nothing is said. */
export function writeOf(
  world: World,
  { row, id, project }: StoredItem,
  { before, after, changed, comment }: Accepted,
  idOf: LoadedGround['idOf'],
): ItemWrite | undefined {
  if (changed.length === 0 && comment === undefined) return undefined
  const values = columnValues(world, after, changed, idOf)
  const counted =
    comment === undefined ? values : { ...values, comment_count: row.comment_count + 1 }
  const text = changed.includes('title') || changed.includes('description')
  return {
    id,
    ref: refOf(world, row),
    project: project.number,
    row,
    values: counted,
    labels: added(after, before, 'labels').map((label) => world.numbers.numberOf('label', label)),
    ...(text ? { text: textOf(after) } : {}),
    ...(comment === undefined ? {} : { comment }),
  }
}

const textOf = (item: Facts): { title: string; description: string | null } => ({
  title: String(item['title']),
  description: item['description'] === null ? null : String(item['description']),
})

/** What becomes of an item, as it is and by its place among those that are changed together. */
type ChangeMade = (item: Facts, index: number) => ItemChange

/** What became of items that were changed together, and the states that were written. */
export interface Edited {
  readonly judged: readonly Judged[]
  readonly written: readonly WrittenItem[]
}

/** Judges changes of items together, on ground that was loaded for them. @returns what is to be written of those that are accepted */
async function judgeTogether(
  database: Sequelize,
  actor: ActorContext,
  items: readonly StoredItem[],
  changeOf: ChangeMade,
  { ground, idOf }: LoadedGround,
): Promise<{ readonly judged: readonly Judged[]; readonly writes: readonly ItemWrite[] }> {
  const { world } = actor
  const refs = items.map(({ row }) => refOf(world, row))
  const changes = refs.map((ref, index) => ({ ref, change: changeOf(ground.item(ref), index) }))
  const judged = judgeEdits(rulesFor(actor), ground, changes)
  const accepted = judged.flatMap((judged, index) =>
    judged.ok ? (writeOf(world, elementAt(items, index), judged, idOf) ?? []) : [],
  )
  return { judged, writes: await withNumbers(database, accepted) }
}

/** Whether a change may move its item in the tree. */
export const touchesTree = ({ type, parent }: Pick<ItemChange, 'type' | 'parent'>): boolean =>
  type !== undefined || parent !== undefined

/**
 * Changes many items at once, each in its own way: what is accepted is written, what is refused is left.
 *
 * @param changes of items that are there, each at most once
 * @returns what became of each, in the same order, and the states that were written
 */
export async function editMany(
  database: Sequelize,
  actor: ActorContext,
  changes: readonly ChangeOf[],
): Promise<Edited> {
  return await inTransaction(database, async () => {
    const refs = changes.map(({ ref }) => ref)
    const items = await findToEdit(database, actor, refs, { tree: false, order: false })
    const asked = {
      parents: changes.map(({ change }) => change.parent),
      around: changes.some(({ change }) => needsAround(change)),
      tree: changes.some(({ change }) => touchesTree(change)),
    }
    const changeOf: ChangeMade = (_, index) => elementAt(changes, index).change
    return await editLocked(database, actor, items, asked, changeOf, personAuthor(actor.person))
  })
}

/**
 * Changes items that the transaction has locked: what is accepted is written, what is refused is left.
 *
 * @param asked what the changes look at, and whether they may move items in the tree
 * @returns what became of each, in the same order, and the states that were written
 */
export async function editLocked(
  database: Sequelize,
  actor: ActorContext,
  items: readonly StoredItem[],
  { tree, ...asked }: GroundAsked & { readonly tree: boolean },
  changeOf: ChangeMade,
  author: Author,
): Promise<Edited> {
  // The tree comes after the items, as it does where one alone is changed.
  if (tree) await lockTree(database)
  const ground = await loadGround(database, actor, items, asked)
  const { judged, writes } = await judgeTogether(database, actor, items, changeOf, ground)
  return { judged, written: await writeItems(database, actor.world, writes, author, actor.now) }
}

/**
 * Changes an item. A move its flow does not allow is refused with where it may go instead.
 *
 * @returns the item in the state it is in now
 */
export async function editItem(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  { position, ...values }: EditItem,
  match: string,
): Promise<StoredItem> {
  return await inTransaction(database, async () => {
    const found = await findToEdit(database, actor, [ref], {
      tree: touchesTree(values),
      order: position !== undefined,
    })
    const item = firstIn(found)
    await judgeRead(database, actor, item.id, item.row, match)
    const ground = await loadGround(database, actor, [item], {
      parents: [values.parent],
      around: needsAround(values),
      beside: position && besideOf(actor, item.project, position),
    })
    const place = position && (await placed(database, item.project, position, ground.gap))
    const change = place === undefined ? values : { ...values, place }
    const { judged, writes } = await judgeTogether(database, actor, [item], () => change, ground)
    const outcome = firstIn(judged)
    if (!outcome.ok) throw problemOf(outcome.refusal)
    const written = await writeOne(database, actor, item, writes[0])
    if (values.comment !== undefined)
      await followByName(database, actor, item.id, item.project, values.comment)
    return written
  })
}

/** Writes what becomes of one item, if anything does. @returns the item as it is then, in the project it is in then */
async function writeOne(
  database: Sequelize,
  { world, person, now }: ActorContext,
  item: StoredItem,
  write: ItemWrite | undefined,
): Promise<StoredItem> {
  if (!write) return item
  const row = await writeItem(database, world, write, personAuthor(person), now)
  const project = world.whole.projects.find(({ number }) => number === row.project_id)
  return { id: item.id, row, project: certain(project, `project ${row.project_id}`) }
}
