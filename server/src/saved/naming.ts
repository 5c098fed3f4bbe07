import { cast, col, Op, type Sequelize, where } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'

/** How many queries, views, measures and dashboards that are kept name an identity, whoever they belong to. */
export async function countNaming(database: Sequelize, identity: string): Promise<number> {
  const { dashboard, measure, query, view } = modelsOf(database)
  const naming = where(cast(col('content'), 'text'), { [Op.like]: `%"${identity}"%` })
  const counts = await Promise.all(
    [query, view, measure, dashboard].map(async (model) => await model.count({ where: naming })),
  )
  return counts.reduce((sum, count) => sum + count, 0)
}
