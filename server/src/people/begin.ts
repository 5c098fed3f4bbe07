import { emptyDocument } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
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
    const { currentEdition, edition, person, setting } = modelsOf(database)
    await setting.create({
      title: 'Bluestem',
      zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    })
    await person.create({
      identity: newIdentity('pe'),
      name,
      email: email.trim().toLowerCase(),
      role: 'administrator',
      password: hashed,
    })
    await edition.create({
      number: 1,
      document: emptyDocument,
      changes: [],
      paths: [],
      note: 'The beginning',
      publishedAt: now,
    })
    await currentEdition.create({ number: 1 })
    await project(database, emptyDocument)
  })
}
