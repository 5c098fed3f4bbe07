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
import { day, id, identity, optionalNumber, text } from './columns.ts'
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
  })
