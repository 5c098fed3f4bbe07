import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
  type CreationOptional,
  DataTypes,
} from 'sequelize'
import { moment, optionalJson, optionalNumber, text } from './columns.ts'
import { defineTable } from './table.ts'

export interface AuditModel extends Model<
  InferAttributes<AuditModel>,
  InferCreationAttributes<AuditModel>
> {
  number: CreationOptional<number>
  at: Date
  byId: CreationOptional<number | null>
  act: string
  subject: string
  before: CreationOptional<unknown>
  after: CreationOptional<unknown>
}

export const defineAudit = (database: Sequelize): ModelStatic<AuditModel> =>
  defineTable<AuditModel>(database, 'audit', {
    number: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
    at: moment,
    byId: optionalNumber,
    act: text,
    subject: text,
    before: optionalJson,
    after: optionalJson,
  })
