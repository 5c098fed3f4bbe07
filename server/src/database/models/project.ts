import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { CalendarModel } from './calendar.ts'
import type { ProjectMemberModel } from './projectMember.ts'
import { emptyText, id, identity, nought, optionalNumber, text, version, yes } from './columns.ts'
import { defineTable } from './table.ts'

export interface ProjectModel extends Model<
  InferAttributes<ProjectModel>,
  InferCreationAttributes<ProjectModel>
> {
  id: CreationOptional<number>
  identity: string
  code: string
  title: string
  description: CreationOptional<string>
  open: CreationOptional<boolean>
  lastNumber: CreationOptional<number>
  calendarId: CreationOptional<number | null>
  version: CreationOptional<number>
  calendar?: NonAttribute<CalendarModel | null>
  members?: NonAttribute<readonly ProjectMemberModel[]>
}

export const defineProject = (database: Sequelize): ModelStatic<ProjectModel> =>
  defineTable<ProjectModel>(
    database,
    'project',
    {
      id,
      identity,
      code: text,
      title: text,
      description: emptyText,
      open: yes,
      lastNumber: nought,
      calendarId: optionalNumber,
      version,
    },
    { version: true },
  )
