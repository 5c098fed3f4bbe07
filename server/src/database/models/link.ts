import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { id, moment, optionalMoment, number, optionalNumber } from './columns.ts'
import { defineTable } from './table.ts'

export interface LinkModel extends Model<
  InferAttributes<LinkModel>,
  InferCreationAttributes<LinkModel>
> {
  id: CreationOptional<number>
  kindNumber: number
  fromId: number
  toId: number
  byId: CreationOptional<number | null>
  validFrom: Date
  /** infinity for what holds now, which the database gives by itself */
  validTo: CreationOptional<Date | number>
}

export const defineLink = (database: Sequelize): ModelStatic<LinkModel> =>
  defineTable<LinkModel>(database, 'link', {
    id,
    kindNumber: number,
    fromId: number,
    toId: number,
    byId: optionalNumber,
    validFrom: moment,
    validTo: optionalMoment,
  })
