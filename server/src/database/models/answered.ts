import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { key, optionalMoment, text } from './columns.ts'
import { defineTable } from './table.ts'

/** What an idempotency key was answered with. */
export interface AnsweredModel extends Model<
  InferAttributes<AnsweredModel>,
  InferCreationAttributes<AnsweredModel>
> {
  byId: number
  key: string
  subject: string
  at: CreationOptional<Date>
}

export const defineAnswered = (database: Sequelize): ModelStatic<AnsweredModel> =>
  defineTable<AnsweredModel>(database, 'answered', {
    byId: key,
    key: { ...text, primaryKey: true },
    subject: text,
    at: optionalMoment,
  })
