import type { Model, ModelAttributes, ModelOptions, ModelStatic, Sequelize } from 'sequelize'

/** Defines the model of a table. Sequelize writes into the columns it is given, so each model gets its own copies. */
export function defineTable<M extends Model>(
  database: Sequelize,
  name: string,
  columns: ModelAttributes<M>,
  options?: ModelOptions<M>,
): ModelStatic<M> {
  // Sequelize writes into what it is given, so that each model gets copies; its types say nothing of entries.
  const copies = Object.entries(columns).map(([column, kind]) => [column, { ...(kind as object) }])
  return database.define<M>(name, Object.fromEntries(copies) as ModelAttributes<M>, options)
}
