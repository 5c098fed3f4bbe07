import { replacedIn } from '@bluestem/core/definitions'
import { cast, col, Op, type Sequelize, Transaction, where } from 'sequelize'
import type { Renamed } from '../database/models/merge.ts'
import { modelsOf } from '../database/models/models.ts'

const tables = ['query', 'view', 'measure', 'dashboard', 'template', 'team'] as const

/** Lets everything saved name one identity instead of another, for something that became one with something else. @returns what was renamed by it */
export async function replaceNamed(
  database: Sequelize,
  from: string,
  into: string,
): Promise<Renamed[]> {
  const models = modelsOf(database)
  const renamed: Renamed[] = []
  for (const table of tables) {
    const naming = where(cast(col('content'), 'text'), { [Op.like]: `%"${from}"%` })
    // All of these tables have the columns that are read here.
    const found = await (models[table] as typeof models.query).findAll({
      where: naming,
      lock: Transaction.LOCK.UPDATE,
    })
    for (const saved of found) {
      // Only identities change; what is saved stays an object.
      const [before, after] = [saved.content, replacedIn(saved.content, from, into) as object]
      renamed.push({ table, id: saved.id, before, after })
      await saved.update({ content: after })
    }
  }
  return renamed
}
