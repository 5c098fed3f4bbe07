import { replacedIn } from '@bluestem/core/definitions'
import { cast, col, Op, type Sequelize, Transaction, where } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'

/** Lets everything saved name one identity instead of another, for something that became one with something else. */
export async function replaceNamed(database: Sequelize, from: string, into: string): Promise<void> {
  const { dashboard, measure, query, team, template, view } = modelsOf(database)
  for (const model of [query, view, measure, dashboard, template, team]) {
    const naming = where(cast(col('content'), 'text'), { [Op.like]: `%"${from}"%` })
    const found = await (model as typeof query).findAll({
      where: naming,
      lock: Transaction.LOCK.UPDATE,
    })
    for (const one of found)
      await one.update({ content: replacedIn(one.content, from, into) as object })
  }
}
