import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, identity, moment, number, optionalNumber, text } from './columns.ts'
import { defineTable } from './table.ts'

/** A title that somebody jotted; nobody else sees it until it is filed. */
export interface JotModel extends Model<
  InferAttributes<JotModel>,
  InferCreationAttributes<JotModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  aboveId: CreationOptional<number | null>
  byId: number
  at: Date
}

export const defineJot = (database: Sequelize): ModelStatic<JotModel> =>
  defineTable<JotModel>(database, 'jot', {
    id,
    identity,
    title: text,
    aboveId: optionalNumber,
    byId: number,
    at: moment,
  })
