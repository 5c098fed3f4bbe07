import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { number, one } from './columns.ts'
import { defineTable } from './table.ts'

/** Which edition is in force: one row. */
export interface CurrentEditionModel extends Model<
  InferAttributes<CurrentEditionModel>,
  InferCreationAttributes<CurrentEditionModel>
> {
  one: CreationOptional<boolean>
  number: number
}

export const defineCurrentEdition = (database: Sequelize): ModelStatic<CurrentEditionModel> =>
  defineTable<CurrentEditionModel>(database, 'current_edition', {
    one,
    number,
  })
