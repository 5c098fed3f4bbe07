import type {
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
  CreationOptional,
} from 'sequelize'
import type { WorkingTime } from '@bluestem/core/calendar'
import { id, identity, json, no, text, version } from './columns.ts'
import { defineTable } from './table.ts'

export interface CalendarModel extends Model<
  InferAttributes<CalendarModel>,
  InferCreationAttributes<CalendarModel>
> {
  id: CreationOptional<number>
  identity: string
  title: string
  hours: WorkingTime['hours']
  daysOff: CreationOptional<WorkingTime['daysOff']>
  standard: CreationOptional<boolean>
  version: CreationOptional<number>
}

export const defineCalendar = (database: Sequelize): ModelStatic<CalendarModel> =>
  defineTable<CalendarModel>(
    database,
    'calendar',
    {
      id,
      identity,
      title: text,
      hours: json,
      daysOff: { ...json, defaultValue: [] },
      standard: no,
      version,
    },
    { version: true },
  )
