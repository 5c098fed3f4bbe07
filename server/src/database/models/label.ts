import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { FamilyModel } from './vocabulary.ts'
import type { ProjectModel } from './project.ts'
import { emptyText, id, identity, no, number, optionalNumber, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface LabelModel extends Model<
  InferAttributes<LabelModel>,
  InferCreationAttributes<LabelModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  familyNumber: CreationOptional<number | null>
  projectId: CreationOptional<number | null>
  colour: CreationOptional<number>
  description: CreationOptional<string>
  retired: CreationOptional<boolean>
  version: CreationOptional<number>
  family?: NonAttribute<FamilyModel | null>
  project?: NonAttribute<ProjectModel | null>
}

export const defineLabel = (database: Sequelize): ModelStatic<LabelModel> =>
  defineTable<LabelModel>(
    database,
    'label',
    {
      id,
      identity,
      title: text,
      familyNumber: optionalNumber,
      projectId: optionalNumber,
      colour: { ...number, defaultValue: 1 },
      description: emptyText,
      retired: no,
      version,
    },
    { version: true },
  )
