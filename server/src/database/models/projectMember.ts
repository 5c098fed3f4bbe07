import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { key, no } from './columns.ts'
import { defineTable } from './table.ts'

export interface ProjectMemberModel extends Model<
  InferAttributes<ProjectMemberModel>,
  InferCreationAttributes<ProjectMemberModel>
> {
  projectId: number
  personId: number
  keeper: CreationOptional<boolean>
}

export const defineProjectMember = (database: Sequelize): ModelStatic<ProjectMemberModel> =>
  defineTable<ProjectMemberModel>(database, 'project_member', {
    projectId: key,
    personId: key,
    keeper: no,
  })
