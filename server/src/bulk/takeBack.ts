import { valueFor } from '@bluestem/core/known'
import { undo } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { type BulkStates, type Outcome, outcomes, statesAroundBulk } from '../items/bulk.ts'
import { type ItemWrite, writeItems } from '../items/change.ts'
import { refOf } from '../items/row.ts'
import { asMapped, type StoredItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { listColumnsOf } from '../workspace/columns.ts'
import { mappingsSince, type PendingMapping } from '../workspace/mappings.ts'
import type { World } from '../workspace/world.ts'
import { bulkAuthor, lockBatch } from './carryOut.ts'

/** Values that follow from others: they go back with them, and no later change of them holds that up. */
const following: ReadonlySet<string> = new Set([
  'phase',
  'first_active_at',
  'first_done_at',
  'done_at',
  'held_since',
])

/** What every change moves, and what stays as it is when one is taken back: what was said stays said. */
const untouched: ReadonlySet<string> = new Set([
  'changed_at',
  'by_kind',
  'by_id',
  'comment_count',
  'code_change_count',
])

const without = (row: object): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).filter(([column]) => !untouched.has(column)))

/** What a column is called on screen. */
function titleOf({ vocabulary }: World, column: string): string {
  const handle = column.replace(/_id$|_date$/, '')
  return vocabulary.properties.get(handle)?.title ?? 'a field'
}

type Back = { readonly write: ItemWrite } | { readonly why: string }

/** What taking a change back writes to an item, or why it stays as it is. */
function backOf(
  world: World,
  { id, row, project }: StoredItem,
  { before, written }: BulkStates,
  mappings: readonly PendingMapping[],
): Back {
  const undone = undo(without(before), without(written), without(row), following)
  if (!undone.ok) {
    const titles = undone.changedSince.map((column) => titleOf(world, column))
    return { why: `Changed again since: ${[...new Set(titles)].join(', ')}.` }
  }
  // What was mapped meanwhile comes back as what it would be by now.
  const back = asMapped(mappings, { ...row, ...undone.values, deleted: false })
  const columns = Object.keys(undone.values)
  const values = Object.fromEntries(
    columns.map((column) => [column, column === 'deleted' ? undone.values[column] : back[column]]),
  )
  const ref = refOf(world, row)
  return { write: { id, ref, project: project.number, row, values, labels: [] } }
}

/** Takes a change of many back for some of its items, in the transaction at hand. @returns what became of each */
export async function takeBackBatch(
  database: Sequelize,
  actor: ActorContext,
  of: { readonly id: number; readonly at: Date },
  ids: readonly number[],
): Promise<Outcome[]> {
  const { world, now } = actor
  const { items, gone } = await lockBatch(database, actor, ids, { deletedToo: true })
  const states = await statesAroundBulk(database, world, of.id, ids)
  const mappings = await mappingsSince(database, listColumnsOf(world), of.at)
  const backs = items.map((item): [number, Back] => {
    const around = states.get(item.id)
    return [
      item.id,
      around ? backOf(world, item, around, mappings) : { why: 'What it was is no longer known.' },
    ]
  })
  const writes = backs.flatMap(([, back]) => ('write' in back ? [back.write] : []))
  const written = await writeItems(database, world, writes, bulkAuthor(actor), now)
  const at = new Map(written.map((writtenItem) => [writtenItem.id, writtenItem.row_from]))
  return [
    ...gone,
    ...backs.map(([id, back]): Outcome =>
      'write' in back
        ? { id, outcome: outcomes.changed, at: valueFor(at, id) }
        : { id, outcome: outcomes.refused, why: back.why },
    ),
  ]
}
