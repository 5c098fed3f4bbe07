import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { text, version } from './columns.ts'
import { defineTable } from './table.ts'

/** The version of who keeps a rulebook. */
export interface RulebookKeepingModel extends Model<
  InferAttributes<RulebookKeepingModel>,
  InferCreationAttributes<RulebookKeepingModel>
> {
  rulebook: string
  version: CreationOptional<number>
}

export const defineRulebookKeeping = (database: Sequelize): ModelStatic<RulebookKeepingModel> =>
  defineTable<RulebookKeepingModel>(
    database,
    'rulebook_keeping',
    {
      rulebook: { ...text, primaryKey: true },
      version,
    },
    { version: true },
  )
