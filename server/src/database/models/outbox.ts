import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
  type CreationOptional,
  DataTypes,
} from 'sequelize'
import { moment, optionalNumber, text } from './columns.ts'
import { defineTable } from './table.ts'

/** What screens are told, in the order it came to be. */
export interface OutboxModel extends Model<
  InferAttributes<OutboxModel>,
  InferCreationAttributes<OutboxModel>
> {
  number: CreationOptional<number>
  xid: CreationOptional<string>
  at: Date
  kind: string
  subject: string
  projectId: CreationOptional<number | null>
  personId: CreationOptional<number | null>
}

export const defineOutbox = (database: Sequelize): ModelStatic<OutboxModel> =>
  defineTable<OutboxModel>(database, 'outbox', {
    number: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
    xid: text,
    at: moment,
    kind: text,
    subject: text,
    projectId: optionalNumber,
    personId: optionalNumber,
  })
