import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import {
  id,
  moment,
  nought,
  optionalMoment,
  optionalNumber,
  optionalText,
  text,
} from './columns.ts'
import { defineTable } from './table.ts'

export interface JobModel extends Model<
  InferAttributes<JobModel>,
  InferCreationAttributes<JobModel>
> {
  id: CreationOptional<number>
  kind: string
  subject: string
  runAt: Date
  byId: CreationOptional<number | null>
  done: CreationOptional<number>
  total: CreationOptional<number>
  finishedAt: CreationOptional<Date | null>
  failed: CreationOptional<string | null>
  cancelledBy: CreationOptional<number | null>
}

export const defineJob = (database: Sequelize): ModelStatic<JobModel> =>
  defineTable<JobModel>(database, 'job', {
    id,
    kind: text,
    subject: text,
    runAt: moment,
    byId: optionalNumber,
    done: nought,
    total: nought,
    finishedAt: optionalMoment,
    failed: optionalText,
    cancelledBy: optionalNumber,
  })
