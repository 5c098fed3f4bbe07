import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize'
import { day, emptyText, id, number } from './columns.ts'
import { defineTable } from './table.ts'

/** Days on which somebody does not work; the last is one of them. */
export interface AbsenceModel extends Model<
  InferAttributes<AbsenceModel>,
  InferCreationAttributes<AbsenceModel>
> {
  id: CreationOptional<number>
  personId: number
  startDate: string
  endDate: string
  note: CreationOptional<string>
}

export const defineAbsence = (database: Sequelize): ModelStatic<AbsenceModel> =>
  defineTable<AbsenceModel>(database, 'absence', {
    id,
    personId: number,
    startDate: { ...day, allowNull: false },
    endDate: { ...day, allowNull: false },
    note: emptyText,
  })
