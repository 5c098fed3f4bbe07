import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { key, moment } from './columns.ts'
import { defineTable } from './table.ts'

/** Somebody who hears of an item. */
export interface FollowerModel extends Model<
  InferAttributes<FollowerModel>,
  InferCreationAttributes<FollowerModel>
> {
  itemId: number
  personId: number
  since: Date
}

export const defineFollower = (database: Sequelize): ModelStatic<FollowerModel> =>
  defineTable<FollowerModel>(database, 'follower', {
    itemId: key,
    personId: key,
    since: moment,
  })
