import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { Change, MappingChoices } from '@bluestem/core/definitions'
import {
  emptyText,
  id,
  identity,
  json,
  moment,
  no,
  number,
  optionalMoment,
  optionalNumber,
  text,
  version,
  yes,
} from './columns.ts'
import { defineTable } from './table.ts'

/** A status that a draft places on a board when it is published. */
export interface Placing {
  readonly view: string
  readonly status: string
}

export interface DraftModel extends Model<
  InferAttributes<DraftModel>,
  InferCreationAttributes<DraftModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  base: number
  changes: CreationOptional<readonly Change[]>
  choices: CreationOptional<MappingChoices>
  boards: CreationOptional<readonly Placing[]>
  proposed: CreationOptional<boolean>
  /** false for one that only its maker may open */
  shared: CreationOptional<boolean>
  publishAt: CreationOptional<Date | null>
  publishBy: CreationOptional<number | null>
  publishNote: CreationOptional<string>
  version: CreationOptional<number>
  madeBy: number
  madeAt: Date
  closedAt: CreationOptional<Date | null>
  /** who dropped it; nobody where it is open or was published */
  droppedBy: CreationOptional<number | null>
}

export const defineDraft = (database: Sequelize): ModelStatic<DraftModel> =>
  defineTable<DraftModel>(
    database,
    'draft',
    {
      id,
      identity,
      title: text,
      base: number,
      changes: { ...json, defaultValue: [] },
      choices: { ...json, defaultValue: {} },
      boards: { ...json, defaultValue: [] },
      proposed: no,
      shared: yes,
      publishAt: optionalMoment,
      publishBy: optionalNumber,
      publishNote: emptyText,
      version,
      madeBy: number,
      madeAt: moment,
      closedAt: optionalMoment,
      droppedBy: optionalNumber,
    },
    { version: true },
  )
