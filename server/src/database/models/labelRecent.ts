import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { key, moment } from './columns.ts'
import { defineTable } from './table.ts'

/** Labels a person gave, and when last. */
export interface LabelRecentModel extends Model<
  InferAttributes<LabelRecentModel>,
  InferCreationAttributes<LabelRecentModel>
> {
  personId: number
  labelId: number
  at: Date
}

export const defineLabelRecent = (database: Sequelize): ModelStatic<LabelRecentModel> =>
  defineTable<LabelRecentModel>(database, 'label_recent', {
    personId: key,
    labelId: key,
    at: moment,
  })
