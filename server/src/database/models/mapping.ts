import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
  type CreationOptional,
  DataTypes,
} from 'sequelize'
import { id, moment, nought, number, optionalMoment, optionalNumber, text } from './columns.ts'
import { defineTable } from './table.ts'

/** Another value for items whose own goes out of use, until all of them are rewritten. */
export interface MappingModel extends Model<
  InferAttributes<MappingModel>,
  InferCreationAttributes<MappingModel>
> {
  id: CreationOptional<number>
  edition: CreationOptional<number | null>
  columnName: string
  fromNumber: number
  toNumber: CreationOptional<number | null>
  projects: readonly number[]
  types: readonly number[]
  toPhase: CreationOptional<number | null>
  total: number
  moved: CreationOptional<number>
  byKind: number
  byId: CreationOptional<number | null>
  madeAt: Date
  finishedAt: CreationOptional<Date | null>
}

export const defineMapping = (database: Sequelize): ModelStatic<MappingModel> =>
  defineTable<MappingModel>(database, 'mapping', {
    id,
    edition: optionalNumber,
    columnName: text,
    fromNumber: number,
    toNumber: optionalNumber,
    projects: { type: DataTypes.ARRAY(DataTypes.INTEGER), allowNull: false },
    types: { type: DataTypes.ARRAY(DataTypes.SMALLINT), allowNull: false },
    toPhase: optionalNumber,
    total: number,
    moved: nought,
    byKind: number,
    byId: optionalNumber,
    madeAt: moment,
    finishedAt: optionalMoment,
  })
