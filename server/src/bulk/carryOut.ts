import { elementAt } from '@bluestem/core/known'
import { type BulkChange, changeFor, reasonOf } from '@bluestem/core/bulk'
import type { Judged } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import type { BulkChangeModel } from '../database/models/bulkChange.ts'
import { lockById, type Outcome, outcomes, recordOutcomes } from '../items/bulk.ts'
import { writeItems, type WrittenItem } from '../items/change.ts'
import { refOf } from '../items/row.ts'
import { editLocked } from '../work/editItem.ts'
import { rulesFor } from '../work/rules.ts'
import { type StoredItem, toEdit } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Author } from '../workspace/author.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { askedBy } from './preview.ts'

/** A change of many by a person is told as such, and moves *changed* as an edit by hand does. */
export const bulkAuthor = ({ person }: ActorContext): Author => ({
  kind: 'bulk job',
  number: person.number,
})

/** Items of a batch that are there and may be seen, locked; what is not is left with its reason. */
export async function lockBatch(
  database: Sequelize,
  actor: ActorContext,
  ids: readonly number[],
  { deletedToo }: { readonly deletedToo: boolean },
): Promise<{ readonly items: readonly StoredItem[]; readonly gone: readonly Outcome[] }> {
  const { world, person } = actor
  const visible = visibleProjects(world, person)
  const projects = new Map(world.projects.map((project) => [project.number, project]))
  const items: StoredItem[] = []
  for (const row of await lockById(database, world, ids)) {
    const project = projects.get(row.project_id)
    if (!project || !visible.includes(row.project_id) || (row.deleted && !deletedToo)) continue
    items.push(await toEdit(database, actor, row, project))
  }
  const found = new Set(items.map(({ id }) => id))
  const gone = ids
    .filter((id) => !found.has(id))
    .map((id) => ({ id, outcome: outcomes.refused, why: 'It was deleted meanwhile.' }))
  return { items, gone }
}

const outcomeOf = (id: number, judged: Judged, written: ReadonlyMap<number, Date>): Outcome => {
  if (!judged.ok) return { id, outcome: outcomes.refused, why: reasonOf(judged.refusal) }
  const at = written.get(id)
  return at ? { id, outcome: outcomes.changed, at } : { id, outcome: outcomes.same }
}

const beginnings = (written: readonly WrittenItem[]): ReadonlyMap<number, Date> =>
  new Map(written.map(({ id, row_from: at }) => [id, at]))

/** Carries a change out for some of its items, in the transaction at hand. */
export async function carryOutBatch(
  database: Sequelize,
  actor: ActorContext,
  { id: bulk, change }: BulkChangeModel,
  ids: readonly number[],
): Promise<void> {
  const { items, gone } = await lockBatch(database, actor, ids, { deletedToo: false })
  const found = change.delete
    ? await deleteAll(database, actor, items)
    : await editAll(database, actor, change, items)
  await recordOutcomes(database, bulk, [...found, ...gone])
}

async function editAll(
  database: Sequelize,
  actor: ActorContext,
  change: BulkChange,
  items: readonly StoredItem[],
): Promise<Outcome[]> {
  const rules = rulesFor(actor)
  const { judged, written } = await editLocked(
    database,
    actor,
    items,
    askedBy(change),
    (item) => changeFor(rules, change, item),
    bulkAuthor(actor),
  )
  const at = beginnings(written)
  return items.map(({ id }, index) => outcomeOf(id, elementAt(judged, index), at))
}

async function deleteAll(
  database: Sequelize,
  actor: ActorContext,
  items: readonly StoredItem[],
): Promise<Outcome[]> {
  const { world, now } = actor
  const writes = items.map(({ id, row, project }) => ({
    id,
    ref: refOf(world, row),
    project: project.number,
    row,
    values: { deleted: true },
    labels: [],
  }))
  const written = await writeItems(database, world, writes, bulkAuthor(actor), now)
  return written.map(({ id, row_from: at }) => ({ id, outcome: outcomes.changed, at }))
}
