import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, identity, optionalText, text, version, yes } from './columns.ts'
import { defineTable } from './table.ts'

export interface PersonModel extends Model<
  InferAttributes<PersonModel>,
  InferCreationAttributes<PersonModel>
> {
  id: CreationOptional<number>
  identity: string
  name: string
  email: string
  role: 'administrator' | 'member' | 'viewer'
  /** a hash; nobody signs in where it is absent */
  password: CreationOptional<string | null>
  active: CreationOptional<boolean>
  version: CreationOptional<number>
}

export const definePerson = (database: Sequelize): ModelStatic<PersonModel> =>
  defineTable<PersonModel>(database, 'person', {
    id,
    identity,
    name: text,
    email: text,
    role: text,
    password: optionalText,
    active: yes,
    version,
  })
