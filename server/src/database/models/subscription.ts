import type { Export } from '@bluestem/core/exchange'
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, identity, json, moment, number, optionalMoment, text } from './columns.ts'
import { defineTable } from './table.ts'

/** An address under which a program reads the answers of a question. */
export interface SubscriptionModel extends Model<
  InferAttributes<SubscriptionModel>,
  InferCreationAttributes<SubscriptionModel>
> {
  id: CreationOptional<number>
  identity: string
  /** of the secret in the address */
  digest: string
  personId: number
  title: string
  question: Export
  at: Date
  readAt: CreationOptional<Date | null>
}

export const defineSubscription = (database: Sequelize): ModelStatic<SubscriptionModel> =>
  defineTable<SubscriptionModel>(database, 'subscription', {
    id,
    identity,
    digest: text,
    personId: number,
    title: text,
    question: json,
    at: moment,
    readAt: optionalMoment,
  })
