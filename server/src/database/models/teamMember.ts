import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { key } from './columns.ts'
import { defineTable } from './table.ts'

export interface TeamMemberModel extends Model<
  InferAttributes<TeamMemberModel>,
  InferCreationAttributes<TeamMemberModel>
> {
  teamId: number
  personId: number
}

export const defineTeamMember = (database: Sequelize): ModelStatic<TeamMemberModel> =>
  defineTable<TeamMemberModel>(database, 'team_member', {
    teamId: key,
    personId: key,
  })
