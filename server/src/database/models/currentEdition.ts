import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { number, onlyRow } from './columns.ts'
import { defineTable } from './table.ts'

/** Which edition is in force: one row. */
export interface CurrentEditionModel extends Model<
  InferAttributes<CurrentEditionModel>,
  InferCreationAttributes<CurrentEditionModel>
> {
  onlyRow: CreationOptional<boolean>
  number: number
}

export const defineCurrentEdition = (database: Sequelize): ModelStatic<CurrentEditionModel> =>
  defineTable<CurrentEditionModel>(database, 'current_edition', {
    onlyRow,
    number,
  })
