import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { ProjectModel } from './project.ts'
import { day, id, identity, optionalNumber, text } from './columns.ts'
import { defineTable } from './table.ts'

export interface ReleaseModel extends Model<
  InferAttributes<ReleaseModel>,
  InferCreationAttributes<ReleaseModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  projectId: CreationOptional<number | null>
  startDate: CreationOptional<string | null>
  endDate: CreationOptional<string | null>
  project?: NonAttribute<ProjectModel | null>
}

export const defineRelease = (database: Sequelize): ModelStatic<ReleaseModel> =>
  defineTable<ReleaseModel>(database, 'release', {
    id,
    identity,
    title: text,
    projectId: optionalNumber,
    startDate: day,
    endDate: day,
  })
