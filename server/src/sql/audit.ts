import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** The audit list: who did what to which definition, share or role. */
export async function audit(
  database: Sequelize,
  by: number | null,
  act: string,
  subject: string,
  change: { before?: unknown; after?: unknown },
  at: Date,
): Promise<void> {
  await rows(
    database,
    'INSERT INTO audit (at, by_id, act, subject, before, after) VALUES ($1, $2, $3, $4, $5::jsonb, $6::jsonb) RETURNING number',
    [
      at,
      by,
      act,
      subject,
      change.before === undefined ? null : JSON.stringify(change.before),
      change.after === undefined ? null : JSON.stringify(change.after),
    ],
  )
}
