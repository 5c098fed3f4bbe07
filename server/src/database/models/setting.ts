import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { no, one, text, yes } from './columns.ts'
import { defineTable } from './table.ts'

/** The workspace: one row. */
export interface SettingModel extends Model<
  InferAttributes<SettingModel>,
  InferCreationAttributes<SettingModel>
> {
  one: CreationOptional<boolean>
  title: string
  zone: string
  demo: CreationOptional<boolean>
  loaded: CreationOptional<boolean>
}

export const defineSetting = (database: Sequelize): ModelStatic<SettingModel> =>
  defineTable<SettingModel>(database, 'setting', {
    one,
    title: text,
    zone: text,
    demo: no,
    loaded: yes,
  })
