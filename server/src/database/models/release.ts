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
import { day, emptyText, id, identity, key, optionalMoment, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface ReleaseModel extends Model<
  InferAttributes<ReleaseModel>,
  InferCreationAttributes<ReleaseModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  startDate: CreationOptional<string | null>
  endDate: CreationOptional<string | null>
  goal: CreationOptional<string>
  startedAt: CreationOptional<Date | null>
  finishedAt: CreationOptional<Date | null>
  version: CreationOptional<number>
  projects?: NonAttribute<ProjectModel[]>
}

export const defineRelease = (database: Sequelize): ModelStatic<ReleaseModel> =>
  defineTable<ReleaseModel>(database, 'release', {
    id,
    identity,
    title: text,
    startDate: day,
    endDate: day,
    goal: emptyText,
    startedAt: optionalMoment,
    finishedAt: optionalMoment,
    version,
  })

/** That a release belongs to a project. */
export interface ReleaseProjectModel extends Model<
  InferAttributes<ReleaseProjectModel>,
  InferCreationAttributes<ReleaseProjectModel>
> {
  releaseId: number
  projectId: number
}

export const defineReleaseProject = (database: Sequelize): ModelStatic<ReleaseProjectModel> =>
  defineTable<ReleaseProjectModel>(database, 'release_project', { releaseId: key, projectId: key })
