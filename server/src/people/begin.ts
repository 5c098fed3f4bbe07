import { emptyDocument } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction, run } from '../database/connect.ts'
import { project } from '../definitions/projection.ts'
import { newIdentity } from '../workspace/identity.ts'
import { hashPassword } from './session.ts'

/** An empty workspace: edition 1 defines nothing, and one administrator can begin. */
export async function beginEmpty(
  database: Sequelize,
  { name, email, password }: { name: string; email: string; password: string },
  now: Date,
): Promise<void> {
  const hashed = await hashPassword(password)
  await inTransaction(database, async () => {
    await run(database, 'INSERT INTO setting (title, zone) VALUES ($1, $2)', [
      'Bluestem',
      Intl.DateTimeFormat().resolvedOptions().timeZone,
    ])
    await run(
      database,
      `INSERT INTO person (identity, name, email, role, password) VALUES ($1, $2, $3, 'administrator', $4)`,
      [newIdentity('pe'), name, email.trim().toLowerCase(), hashed],
    )
    await run(
      database,
      `INSERT INTO edition (number, document, changes, note, published_at) VALUES (1, $1::jsonb, '[]', 'The beginning', $2)`,
      [JSON.stringify(emptyDocument), now],
    )
    await run(database, 'INSERT INTO current_edition (number) VALUES (1)')
    await project(database, emptyDocument)
  })
}
