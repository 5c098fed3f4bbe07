import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  NonAttribute,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { PersonModel } from './person.ts'
import { emptyText, id, identity, json, moment, number, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface SavedModel extends Model<
  InferAttributes<SavedModel>,
  InferCreationAttributes<SavedModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  description: CreationOptional<string>
  content: object
  ownerId: number
  shared: 'me' | 'everyone'
  version: CreationOptional<number>
  changedAt: Date
  changedBy: number
  owner?: NonAttribute<PersonModel>
}

/** Queries, views, measures and dashboards: four tables with the same columns. */
export const defineSaved = (
  database: Sequelize,
  table: 'query' | 'view' | 'measure' | 'dashboard',
): ModelStatic<SavedModel> =>
  defineTable<SavedModel>(
    database,
    table,
    {
      id,
      identity,
      title: text,
      description: emptyText,
      content: json,
      ownerId: number,
      shared: text,
      version,
      changedAt: moment,
      changedBy: number,
    },
    { version: true },
  )
