import type { DefinitionsDocument, Mapping } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { fieldColumn, stateColumns } from '../workspace/columns.ts'
import { rewriteNow, saveMapping } from '../items/remap.ts'
import type { PendingMapping } from '../workspace/mappings.ts'
import { addJob } from '../jobs/jobs.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { CountedMapping } from './judgeSince.ts'
import { phases } from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'

/** The tables that number what a mapping is about, and its column. */
export const tables = { type: 'item_type', status: 'status', priority: 'priority' } as const
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
  const fields = new Map(
    (
      await rows<{ number: number; identity: string }>(
        database,
        'SELECT number, identity FROM field',
      )
    ).map((field) => [field.identity, field.number]),
  )
  if (total <= most) {
    await rewriteNow(
      database,
      stateColumns(document, (id) => fields.get(id)!),
      kept,
      now,
    )
    return 0
  }
  await addJob(database, 'mapping', String(edition), now, null, total)
  return total
}

export async function inNumbers(
  database: Sequelize,
  world: World,
  document: DefinitionsDocument,
  edition: number,
  { column, from, to, projects, types }: Mapping,
): Promise<Omit<PendingMapping, 'id' | 'moved' | 'total'>> {
  const field = column.startsWith('option:') ? column.slice('option:'.length) : undefined
  const table = field ? 'field_option' : tables[column as keyof typeof tables]
  const number = async (identity: string): Promise<number> =>
    (
      await rows<{ number: number }>(database, `SELECT number FROM ${table} WHERE identity = $1`, [
        identity,
      ])
    )[0]!.number
  return {
    edition,
    column: field ? fieldColumn(world.numbers.of('field', field)!) : `${column}_id`,
    from: await number(from),
    to: to === null ? null : await number(to),
    several: field !== undefined && document.fields[field]?.kind === 'several choices',
    phase: column === 'status' && to !== null ? phases.indexOf(document.statuses[to]!.phase) : null,
    projects: projects.flatMap((id) => world.numbers.of('project', id) ?? []),
    types: types.flatMap((id) => world.numbers.of('type', id) ?? []),
    author: { kind: 'edition', number: edition },
  }
}
