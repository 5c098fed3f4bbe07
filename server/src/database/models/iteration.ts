import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { TeamModel } from './team.ts'
import {
  day,
  emptyText,
  id,
  identity,
  optionalMoment,
  optionalNumber,
  text,
  version,
} from './columns.ts'
import { defineTable } from './table.ts'

export interface IterationModel extends Model<
  InferAttributes<IterationModel>,
  InferCreationAttributes<IterationModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  teamId: CreationOptional<number | null>
  startDate: CreationOptional<string | null>
  endDate: CreationOptional<string | null>
  goal: CreationOptional<string>
  startedAt: CreationOptional<Date | null>
  finishedAt: CreationOptional<Date | null>
  version: CreationOptional<number>
  team?: NonAttribute<TeamModel | null>
}

export const defineIteration = (database: Sequelize): ModelStatic<IterationModel> =>
  defineTable<IterationModel>(database, 'iteration', {
    id,
    identity,
    title: text,
    teamId: optionalNumber,
    startDate: day,
    endDate: day,
    goal: emptyText,
    startedAt: optionalMoment,
    finishedAt: optionalMoment,
    version,
  })
