import { elementAt } from '@bluestem/core/known'
import { type Author, byKinds } from './author.ts'
import { Op, type Sequelize, type WhereOptions } from 'sequelize'
import type { MappingModel } from '../database/models/mapping.ts'
import { modelsOf } from '../database/models/models.ts'

/** A mapping that is not carried out yet for every item it concerns, in numbers. */
export interface PendingMapping {
  readonly id: number
  readonly edition: number | null
  readonly column: string
  readonly from: number
  readonly to: number | null
  /** the phase of the successor, for a status */
  readonly phase: number | null
  readonly several: boolean
  readonly projects: readonly number[]
  readonly types: readonly number[]
  readonly author: Author
  readonly total: number
  readonly moved: number
  readonly madeAt: Date
}

/**
 * The mappings that are still being carried out, in the order in which they must be.
 *
 * @param listColumns the columns that hold several values
 */
export async function pendingMappings(
  database: Sequelize,
  listColumns: ReadonlySet<string>,
): Promise<PendingMapping[]> {
  return await mappingsWhere(database, listColumns, { finishedAt: null })
}

/** The mappings that were begun after a moment, carried out or not, in the order in which they were. */
export async function mappingsSince(
  database: Sequelize,
  listColumns: ReadonlySet<string>,
  since: Date,
): Promise<PendingMapping[]> {
  return await mappingsWhere(database, listColumns, { madeAt: { [Op.gt]: since } })
}

async function mappingsWhere(
  database: Sequelize,
  listColumns: ReadonlySet<string>,
  where: WhereOptions<MappingModel>,
): Promise<PendingMapping[]> {
  const found = await modelsOf(database).mapping.findAll({ where, order: ['id'] })
  return found.map((mapping) => ({
    id: mapping.id,
    edition: mapping.edition,
    column: mapping.columnName,
    from: mapping.fromNumber,
    to: mapping.toNumber,
    phase: mapping.toPhase,
    several: listColumns.has(mapping.columnName),
    projects: mapping.projects,
    types: mapping.types,
    author: { kind: elementAt(byKinds, mapping.byKind), number: mapping.byId },
    total: mapping.total,
    moved: mapping.moved,
    madeAt: mapping.madeAt,
  }))
}
