import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { id, moment, optionalMoment, optionalNumber, number, text } from './columns.ts'
import { defineTable } from './table.ts'

export interface CommentModel extends Model<
  InferAttributes<CommentModel>,
  InferCreationAttributes<CommentModel>
> {
  id: CreationOptional<number>
  itemId: number
  body: string
  byId: number
  at: Date
  /** infinity for what holds now, which the database gives by itself */
  validTo: CreationOptional<Date | number>
  /** the row in which it was said first; empty in that row itself */
  firstId: CreationOptional<number | null>
  /** who took it back */
  endedById: CreationOptional<number | null>
}

export const defineComment = (database: Sequelize): ModelStatic<CommentModel> =>
  defineTable<CommentModel>(database, 'comment', {
    id,
    itemId: number,
    body: text,
    byId: number,
    at: moment,
    validTo: optionalMoment,
    firstId: optionalNumber,
    endedById: optionalNumber,
  })
