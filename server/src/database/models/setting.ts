import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import { no, onlyRow, text, yes } from './columns.ts'
import { defineTable } from './table.ts'

/** The workspace: one row. */
export interface SettingModel extends Model<
  InferAttributes<SettingModel>,
  InferCreationAttributes<SettingModel>
> {
  onlyRow: CreationOptional<boolean>
  title: string
  zone: string
  demo: CreationOptional<boolean>
  loaded: CreationOptional<boolean>
}

export const defineSetting = (database: Sequelize): ModelStatic<SettingModel> =>
  defineTable<SettingModel>(database, 'setting', {
    onlyRow,
    title: text,
    zone: text,
    demo: no,
    loaded: yes,
  })
