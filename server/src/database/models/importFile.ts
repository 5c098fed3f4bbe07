import type { FileReading, ImportAnswer, Separator } from '@bluestem/core/exchange'
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, identity, json, moment, no, nought, number, optionalText, text } from './columns.ts'
import { defineTable } from './table.ts'

/** A row that did not come in, with what is wrong with it. */
export interface LeftRow {
  readonly line: number
  readonly why: string
}

/** A file that is brought in. */
export interface ImportFileModel extends Model<
  InferAttributes<ImportFileModel>,
  InferCreationAttributes<ImportFileModel>
> {
  id: CreationOptional<number>
  identity: string
  projectId: number
  name: string
  text: string
  separator: Separator
  /** its headings with their first values; by the headings the same kind of file is known the next time */
  columns: ImportAnswer['columns']
  rows: number
  reading: FileReading
  state: CreationOptional<ImportAnswer['state']>
  goodOnly: CreationOptional<boolean>
  done: CreationOptional<number>
  counts: CreationOptional<ImportAnswer['counts']>
  /** the rows that are wrong, once they were judged */
  rest: CreationOptional<readonly LeftRow[] | null>
  reason: CreationOptional<string | null>
  byId: number
  at: Date
}

export const defineImportFile = (database: Sequelize): ModelStatic<ImportFileModel> =>
  defineTable<ImportFileModel>(database, 'import_file', {
    id,
    identity,
    projectId: number,
    name: text,
    text,
    separator: text,
    columns: json,
    rows: number,
    reading: json,
    state: { ...text, defaultValue: 'read' },
    goodOnly: no,
    done: nought,
    counts: { ...json, allowNull: true },
    rest: { ...json, allowNull: true },
    reason: optionalText,
    byId: number,
    at: moment,
  })
