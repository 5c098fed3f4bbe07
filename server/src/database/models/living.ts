import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
  type CreationOptional,
  DataTypes,
} from 'sequelize'
import { onlyRow } from './columns.ts'
import { defineTable } from './table.ts'

/** A number that moves with every change of the living vocabulary: one row. */
export interface LivingModel extends Model<
  InferAttributes<LivingModel>,
  InferCreationAttributes<LivingModel>
> {
  onlyRow: CreationOptional<boolean>
  version: CreationOptional<number>
}

export const defineLiving = (database: Sequelize): ModelStatic<LivingModel> =>
  defineTable<LivingModel>(database, 'living', {
    onlyRow,
    version: { type: DataTypes.BIGINT, allowNull: false, defaultValue: 1 },
  })
