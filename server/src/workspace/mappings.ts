import { type Author, byKinds } from './author.ts'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

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
}

/** The mappings that are still being carried out, in the order in which they must be. */
export async function pendingMappings(database: Sequelize): Promise<PendingMapping[]> {
  const found = await rows<{
    id: number
    edition: number | null
    column_name: string
    from_number: number
    to_number: number | null
    to_phase: number | null
    projects: number[]
    types: number[]
    by_kind: number
    by_id: number | null
    total: number
    moved: number
    several: boolean
  }>(
    database,
    `
    SELECT m.*, (SELECT data_type = 'ARRAY' FROM information_schema.columns c WHERE c.table_schema = current_schema() AND c.table_name = 'item' AND c.column_name = m.column_name) AS several
    FROM mapping m WHERE finished_at IS NULL ORDER BY id`,
  )
  return found.map(({ column_name, from_number, to_number, to_phase, by_kind, by_id, ...one }) => ({
    ...one,
    column: column_name,
    from: from_number,
    to: to_number,
    phase: to_phase,
    author: { kind: byKinds[by_kind]!, number: by_id },
  }))
}
