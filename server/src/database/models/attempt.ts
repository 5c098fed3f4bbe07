import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { moment, number, text } from './columns.ts'
import { defineTable } from './table.ts'

/** Tries of a key within a window that ends. */
export interface AttemptModel extends Model<
  InferAttributes<AttemptModel>,
  InferCreationAttributes<AttemptModel>
> {
  key: string
  hits: number
  ends: Date
}

export const defineAttempt = (database: Sequelize): ModelStatic<AttemptModel> =>
  defineTable<AttemptModel>(database, 'attempt', {
    key: { ...text, primaryKey: true },
    hits: number,
    ends: moment,
  })
