import { DataTypes } from 'sequelize'
import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { id, json, moment, number, optionalMoment, text } from './columns.ts'
import { defineTable } from './table.ts'

/** Something saved that a merge made name the one, as it was and as it was made. */
export interface Renamed {
  readonly table: 'query' | 'view' | 'measure' | 'dashboard' | 'template' | 'team'
  readonly id: number
  readonly before: object
  readonly after: object
}

/** Labels or components that were made one, with all that undoing it needs. */
export interface MergeModel extends Model<
  InferAttributes<MergeModel>,
  InferCreationAttributes<MergeModel>
> {
  id: CreationOptional<number>
  kind: 'labels' | 'components'
  /** the identity of the one that stayed, and of those that became it */
  into: string
  from: string[]
  /** what was retired before already */
  retired: string[]
  renamed: Renamed[]
  /** the edition in force: the next one ends the undoing */
  edition: number
  madeBy: number
  madeAt: Date
  undoneAt: CreationOptional<Date | null>
}

export const defineMerge = (database: Sequelize): ModelStatic<MergeModel> =>
  defineTable<MergeModel>(database, 'merge', {
    id,
    kind: text,
    into: { ...text, field: 'into_identity' },
    from: { type: DataTypes.ARRAY(DataTypes.TEXT), allowNull: false, field: 'from_identities' },
    retired: { type: DataTypes.ARRAY(DataTypes.TEXT), allowNull: false },
    renamed: json,
    edition: number,
    madeBy: number,
    madeAt: moment,
    undoneAt: optionalMoment,
  })
