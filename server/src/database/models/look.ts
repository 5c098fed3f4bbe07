import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { key, moment } from './columns.ts'
import { defineTable } from './table.ts'

/** When somebody last looked at an item. */
export interface LookModel extends Model<
  InferAttributes<LookModel>,
  InferCreationAttributes<LookModel>
> {
  personId: number
  itemId: number
  at: Date
}

export const defineLook = (database: Sequelize): ModelStatic<LookModel> =>
  defineTable<LookModel>(database, 'look', {
    personId: key,
    itemId: key,
    at: moment,
  })
