import { entryOf, valueFor } from '@bluestem/core/known'
import { type DefinitionsDocument, holdsSeveral, type Mapping } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { fieldColumn, stateColumns } from '../workspace/columns.ts'
import { rewriteNow, saveMapping } from '../items/remap.ts'
import type { PendingMapping } from '../workspace/mappings.ts'
import { addJob } from '../jobs/queue.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { CountedMapping } from './judgeSince.ts'
import { phases } from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'

/** Rewrites the items an edition concerns: at once where they are few, else by a job. @returns how many are left to the job */
export async function carryOut(
  database: Sequelize,
  { world: { whole: world }, now }: ActorContext,
  document: DefinitionsDocument,
  edition: number,
  mappings: readonly CountedMapping[],
  most: number,
): Promise<number> {
  const kept: PendingMapping[] = []
  for (const mapping of mappings)
    kept.push(
      await saveMapping(
        database,
        await inNumbers(database, world, document, edition, mapping),
        now,
        mapping.items,
      ),
    )
  const total = kept.reduce((sum, mapping) => sum + mapping.total, 0)
  if (kept.length === 0) return 0
  const found = await modelsOf(database).field.findAll()
  const fields = new Map(found.map((field) => [field.identity, field.number]))
  if (total <= most) {
    await rewriteNow(
      database,
      stateColumns(document, (id) => valueFor(fields, id)),
      kept,
      now,
    )
    return 0
  }
  await addJob(
    database,
    { kind: 'mapping', subject: String(edition), at: now, by: null, total },
    now,
  )
  return total
}

export async function inNumbers(
  database: Sequelize,
  world: World,
  document: DefinitionsDocument,
  edition: number,
  { column, from, to, projects, types }: Mapping,
): Promise<Omit<PendingMapping, 'id' | 'moved' | 'total' | 'madeAt'>> {
  const field = column.startsWith('option:') ? column.slice('option:'.length) : undefined
  const { fieldOption, itemType, priority, status } = modelsOf(database)
  const models = { type: itemType, status, priority }
  // What is no option is one of these three.
  const model = field ? fieldOption : models[column as keyof typeof models]
  const number = async (identity: string): Promise<number> =>
    // All of them have an identity and a number, and only those are read.
    (await (model as typeof itemType).findOne({ where: { identity }, rejectOnEmpty: true })).number
  return {
    edition,
    column: field ? fieldColumn(world.numbers.numberOf('field', field)) : `${column}_id`,
    from: await number(from),
    to: to === null ? null : await number(to),
    several: field !== undefined && holdsSeveral(entryOf(document.fields, field).kind),
    phase:
      column === 'status' && to !== null
        ? phases.indexOf(entryOf(document.statuses, to).phase)
        : null,
    projects: projects.flatMap((id) => world.numbers.of('project', id) ?? []),
    types: types.flatMap((id) => world.numbers.of('type', id) ?? []),
    author: { kind: 'edition', number: edition },
  }
}
