import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
  DataTypes,
} from 'sequelize'
import { moment, text } from './columns.ts'
import { defineTable } from './table.ts'

export interface SessionModel extends Model<
  InferAttributes<SessionModel>,
  InferCreationAttributes<SessionModel>
> {
  sid: string
  sess: object
  expire: Date
}

export const defineSession = (database: Sequelize): ModelStatic<SessionModel> =>
  defineTable<SessionModel>(database, 'session', {
    sid: { ...text, primaryKey: true },
    sess: { type: DataTypes.JSON, allowNull: false },
    expire: moment,
  })
