import {
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type NonAttribute,
  type Sequelize,
  type CreationOptional,
  DataTypes,
} from 'sequelize'
import type { CalendarModel } from './calendar.ts'
import type { TeamMemberModel } from './teamMember.ts'
import type { Cql2Json } from '@bluestem/core/queries'
import { id, identity, optionalNumber, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface TeamModel extends Model<
  InferAttributes<TeamModel>,
  InferCreationAttributes<TeamModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  content: CreationOptional<{ readonly remit: Cql2Json | null }>
  calendarId: CreationOptional<number | null>
  version: CreationOptional<number>
  calendar?: NonAttribute<CalendarModel | null>
  members?: NonAttribute<readonly TeamMemberModel[]>
}

export const defineTeam = (database: Sequelize): ModelStatic<TeamModel> =>
  defineTable<TeamModel>(
    database,
    'team',
    {
      id,
      identity,
      title: text,
      content: { type: DataTypes.JSONB, allowNull: false, defaultValue: { remit: null } },
      calendarId: optionalNumber,
      version,
    },
    { version: true },
  )
