import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { TemplateContent } from '@bluestem/core/templates'
import type { ProjectModel } from './project.ts'
import {
  emptyText,
  id,
  identity,
  json,
  moment,
  no,
  number,
  optionalMoment,
  optionalNumber,
  optionalText,
  text,
  version,
} from './columns.ts'
import { defineTable } from './table.ts'

export interface TemplateModel extends Model<
  InferAttributes<TemplateModel>,
  InferCreationAttributes<TemplateModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  description: CreationOptional<string>
  rulebook: CreationOptional<string | null>
  projectId: CreationOptional<number | null>
  content: TemplateContent
  retired: CreationOptional<boolean>
  version: CreationOptional<number>
  usedAt: CreationOptional<Date | null>
  changedAt: Date
  changedBy: number
  project?: NonAttribute<ProjectModel | null>
}

export const defineTemplate = (database: Sequelize): ModelStatic<TemplateModel> =>
  defineTable<TemplateModel>(
    database,
    'template',
    {
      id,
      identity,
      title: text,
      description: emptyText,
      rulebook: optionalText,
      projectId: optionalNumber,
      content: json,
      retired: no,
      version,
      usedAt: optionalMoment,
      changedAt: moment,
      changedBy: number,
    },
    { version: true },
  )
