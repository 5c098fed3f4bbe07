import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
} from 'sequelize'
import type { PersonModel } from './person.ts'
import { key, text } from './columns.ts'
import { defineTable } from './table.ts'

export interface RulebookKeeperModel extends Model<
  InferAttributes<RulebookKeeperModel>,
  InferCreationAttributes<RulebookKeeperModel>
> {
  rulebook: string
  personId: number
  person?: NonAttribute<PersonModel>
}

export const defineRulebookKeeper = (database: Sequelize): ModelStatic<RulebookKeeperModel> =>
  defineTable<RulebookKeeperModel>(database, 'rulebook_keeper', {
    rulebook: { ...text, primaryKey: true },
    personId: key,
  })
