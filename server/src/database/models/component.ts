import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { PersonModel } from './person.ts'
import type { ProjectModel } from './project.ts'
import { emptyText, id, identity, no, number, optionalNumber, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface ComponentModel extends Model<
  InferAttributes<ComponentModel>,
  InferCreationAttributes<ComponentModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  projectId: number
  keeperId: CreationOptional<number | null>
  description: CreationOptional<string>
  retired: CreationOptional<boolean>
  version: CreationOptional<number>
  project?: NonAttribute<ProjectModel>
  keeper?: NonAttribute<PersonModel | null>
}

export const defineComponent = (database: Sequelize): ModelStatic<ComponentModel> =>
  defineTable<ComponentModel>(
    database,
    'component',
    {
      id,
      identity,
      title: text,
      projectId: number,
      keeperId: optionalNumber,
      description: emptyText,
      retired: no,
      version,
    },
    { version: true },
  )
