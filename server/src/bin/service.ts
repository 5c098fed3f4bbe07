import type { AnswerOf } from '@bluestem/core/contract'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { type DeletedRow, deletedRows, lockDeleted } from '../items/bin.ts'
import { type ItemWrite, writeItems } from '../items/change.ts'
import { authorOf, choiceShown, type ItemRow, refOf } from '../items/row.ts'
import { binDays, binnedSince } from '../jobs/prune.ts'
import { notFound } from '../problems/problem.ts'
import { asMapped, placeOf } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { personAuthor } from '../workspace/author.ts'
import { listColumnsOf } from '../workspace/columns.ts'
import { holdEdition } from '../workspace/edition.ts'
import { mappingsSince, type PendingMapping } from '../workspace/mappings.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'

/** how many deleted items are shown at once */
const mostShown = 500

/** The items that were deleted in the last 30 days and may be seen, the latest first. */
export async function readBin(
  database: Sequelize,
  { world, person, now }: ActorContext,
  words: string,
): Promise<AnswerOf<'GET /bin'>> {
  const found = await deletedRows(database, {
    since: binnedSince(now),
    projects: visibleProjects(world, person),
    words: words.trim(),
    limit: mostShown,
  })
  return {
    items: found.map((row) => ({
      ref: refOf(world, row),
      title: row.title,
      type: typeOf(world, row),
      by: authorOf(world, row).title,
      at: row.row_from.toISOString(),
      until: new Date(row.row_from.getTime() + binDays * 86_400_000).toISOString(),
    })),
    total: found[0]?.total ?? 0,
  }
}

const typeOf = (world: World, row: DeletedRow): ReturnType<typeof choiceShown> =>
  choiceShown(
    world,
    'type',
    world.numbers.identityOf('type', row.type_id),
    world.numbers.identityOf('project', row.project_id),
  )

/** What bringing an item back writes: what was mapped while it lay in the bin comes back as what it would be by now. */
function backOf(world: World, row: ItemRow, mappings: readonly PendingMapping[]): ItemWrite {
  const there: ItemRow = { ...row, deleted: false }
  const mapped = asMapped(
    mappings.filter((mapping) => mapping.madeAt > row.row_from),
    there,
  )
  const differing = Object.keys(there).filter((column) => mapped[column] !== there[column])
  const values = Object.fromEntries(differing.map((column) => [column, mapped[column]]))
  return {
    id: row.id,
    ref: refOf(world, row),
    project: row.project_id,
    row,
    values: { ...values, deleted: false },
    labels: [],
  }
}

/** Brings deleted items back, each as it was, with its links, its comments and what stands below it. @throws Problem 404 where none of them lies in the bin */
export async function bringBack(
  database: Sequelize,
  actor: ActorContext,
  refs: readonly string[],
): Promise<string[]> {
  const { world, person, now } = actor
  const places = refs.map((ref) => placeOf(actor, ref))
  return await inTransaction(database, async () => {
    await holdEdition(database, world)
    const rows = await lockDeleted(
      database,
      world,
      places.map(({ project, number }) => ({ project: project.number, number })),
      binnedSince(now),
    )
    if (rows.length === 0) throw notFound('such item in the bin')
    const mappings = await mappingsSince(database, listColumnsOf(world), binnedSince(now))
    const writes = rows.map((row) => backOf(world, row, mappings))
    await writeItems(database, world, writes, personAuthor(person), now)
    return writes.map(({ ref }) => ref)
  })
}
