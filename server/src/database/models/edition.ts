import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { PersonModel } from './person.ts'
import { emptyText, json, moment, number, optionalNumber } from './columns.ts'
import { defineTable } from './table.ts'

export interface EditionModel extends Model<
  InferAttributes<EditionModel>,
  InferCreationAttributes<EditionModel>
> {
  number: number
  document: DefinitionsDocument
  changes: readonly string[]
  paths: readonly (readonly string[])[]
  note: CreationOptional<string>
  byId: CreationOptional<number | null>
  publishedAt: Date
  by?: NonAttribute<PersonModel | null>
}

export const defineEdition = (database: Sequelize): ModelStatic<EditionModel> =>
  defineTable<EditionModel>(database, 'edition', {
    number: { ...number, primaryKey: true },
    document: json,
    changes: json,
    paths: json,
    note: emptyText,
    byId: optionalNumber,
    publishedAt: moment,
  })
