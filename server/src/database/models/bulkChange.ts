import type { BulkChange } from '@bluestem/core/bulk'
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, identity, json, moment, number, optionalMoment, optionalNumber } from './columns.ts'
import { defineTable } from './table.ts'

/** A change of many items, or the taking back of one. */
export interface BulkChangeModel extends Model<
  InferAttributes<BulkChangeModel>,
  InferCreationAttributes<BulkChangeModel>
> {
  id: CreationOptional<number>
  identity: string
  change: BulkChange
  /** the change that this one takes back */
  undoes: CreationOptional<number | null>
  byId: number
  at: Date
  cancelledAt: CreationOptional<Date | null>
  finishedAt: CreationOptional<Date | null>
}

export const defineBulkChange = (database: Sequelize): ModelStatic<BulkChangeModel> =>
  defineTable<BulkChangeModel>(database, 'bulk_change', {
    id,
    identity,
    change: json,
    undoes: optionalNumber,
    byId: number,
    at: moment,
    cancelledAt: optionalMoment,
    finishedAt: optionalMoment,
  })
