import type { FieldKind } from '@bluestem/core/definitions'
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
} from 'sequelize'
import { identity, id as key, number, text } from './columns.ts'
import { defineTable } from './table.ts'

/** What an edition defines and items name by number: every identity keeps its number for ever. */
export interface DefinedModel extends Model<
  InferAttributes<DefinedModel>,
  InferCreationAttributes<DefinedModel>
> {
  number: CreationOptional<number>
  identity: string
  title: string
  sort: number
}

export interface StatusModel extends Model<
  InferAttributes<StatusModel>,
  InferCreationAttributes<StatusModel>
> {
  number: CreationOptional<number>
  identity: string
  title: string
  sort: number
  phase: number
}

export interface FieldModel extends Model<
  InferAttributes<FieldModel>,
  InferCreationAttributes<FieldModel>
> {
  number: CreationOptional<number>
  identity: string
  title: string
  sort: number
  handle: string
  kind: FieldKind
}

export interface OptionModel extends Model<
  InferAttributes<OptionModel>,
  InferCreationAttributes<OptionModel>
> {
  number: CreationOptional<number>
  identity: string
  title: string
  sort: number
  fieldNumber: number
  field?: NonAttribute<FieldModel>
}

export interface FamilyModel extends Model<
  InferAttributes<FamilyModel>,
  InferCreationAttributes<FamilyModel>
> {
  number: CreationOptional<number>
  identity: string
  title: string
  sort: number
  pick: string
}

const defined = { number: key, identity, title: text, sort: number } as const

export const defineDefined = (
  database: Sequelize,
  table: 'item_type' | 'priority' | 'link_kind',
): ModelStatic<DefinedModel> => defineTable<DefinedModel>(database, table, defined)

export const defineStatus = (database: Sequelize): ModelStatic<StatusModel> =>
  defineTable<StatusModel>(database, 'status', { ...defined, phase: number })

export const defineField = (database: Sequelize): ModelStatic<FieldModel> =>
  defineTable<FieldModel>(database, 'field', { ...defined, handle: text, kind: text })

export const defineOption = (database: Sequelize): ModelStatic<OptionModel> =>
  defineTable<OptionModel>(database, 'field_option', { ...defined, fieldNumber: number })

export const defineFamily = (database: Sequelize): ModelStatic<FamilyModel> =>
  defineTable<FamilyModel>(database, 'family', { ...defined, pick: text })
