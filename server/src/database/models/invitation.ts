import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, moment, number, text } from './columns.ts'
import { defineTable } from './table.ts'

/** An address by which somebody chooses a password and comes in. */
export interface InvitationModel extends Model<
  InferAttributes<InvitationModel>,
  InferCreationAttributes<InvitationModel>
> {
  id: CreationOptional<number>
  /** of the secret in the address */
  digest: string
  personId: number
  byId: number
  until: Date
}

export const defineInvitation = (database: Sequelize): ModelStatic<InvitationModel> =>
  defineTable<InvitationModel>(database, 'invitation', {
    id,
    digest: text,
    personId: number,
    byId: number,
    until: moment,
  })
