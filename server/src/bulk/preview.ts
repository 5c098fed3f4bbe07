import {
  type BulkChange,
  bulkInWords,
  type BulkPreview,
  type BulkPreviewAnswer,
  previewBulk,
} from '@bluestem/core/bulk'
import type { Sequelize } from 'sequelize'
import { rowsById } from '../items/bulk.ts'
import { type GroundAsked, loadMany, needsAround } from '../work/ground.ts'
import { touchesTree } from '../work/editItem.ts'
import { rulesFor } from '../work/rules.ts'
import { asMapped, type StoredItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { idsOf } from './items.ts'

/** How many items are read at a time. */
const part = 1000

/** What a change of many looks at beside its items, and whether it may move them in the tree. */
export function askedBy({
  set = {},
  statuses,
  project,
  types,
}: BulkChange): GroundAsked & { readonly tree: boolean } {
  return {
    parents: [set.parent],
    around: needsAround(set) || statuses !== undefined || project !== undefined,
    tree: touchesTree(set) || types !== undefined,
  }
}

/** Items as they are, a part at a time, nothing locked. */
export async function* itemsIn(
  database: Sequelize,
  { world }: ActorContext,
  ids: readonly number[],
): AsyncGenerator<StoredItem[]> {
  const projects = new Map(world.projects.map((project) => [project.number, project]))
  for (let from = 0; from < ids.length; from += part) {
    const rows = await rowsById(database, world, ids.slice(from, from + part))
    yield rows.flatMap((row) => {
      const project = projects.get(row.project_id)
      return project ? [{ row: asMapped(world.mappings, row), id: row.id, project }] : []
    })
  }
}

/** Counts what a change would do to many items, each judged as it would be when it is carried out; nothing is kept. */
export async function preview(
  database: Sequelize,
  actor: ActorContext,
  { items, change }: BulkPreview,
): Promise<BulkPreviewAnswer> {
  const { world } = actor
  const ids = await idsOf(database, actor, items)
  const words = bulkInWords(change, world.vocabulary, world.zone)
  if (change.delete)
    return { total: ids.length, changed: ids.length, same: 0, refused: [], besides: [], words }
  const { known } = await loadMany(database, actor, itemsIn(database, actor, ids), askedBy(change))
  return { ...previewBulk(rulesFor(actor), known, change), words }
}
