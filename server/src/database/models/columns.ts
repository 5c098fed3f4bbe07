import { DataTypes, literal, Op } from 'sequelize'

/** Columns that many tables have alike. */
export const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true } as const
export const identity = { type: DataTypes.TEXT, allowNull: false, unique: true } as const
export const text = { type: DataTypes.TEXT, allowNull: false } as const
export const optionalText = { type: DataTypes.TEXT } as const
export const emptyText = { type: DataTypes.TEXT, allowNull: false, defaultValue: '' } as const
export const number = { type: DataTypes.INTEGER, allowNull: false } as const
export const optionalNumber = { type: DataTypes.INTEGER } as const
export const nought = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 } as const
export const no = { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false } as const
export const yes = { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true } as const
export const json = { type: DataTypes.JSONB, allowNull: false } as const
export const optionalJson = { type: DataTypes.JSONB } as const
export const moment = { type: DataTypes.DATE(3), allowNull: false } as const
export const optionalMoment = { type: DataTypes.DATE(3) } as const
export const day = { type: DataTypes.DATEONLY } as const
export const version = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 } as const

/** A number that is part of a table's key. */
export const key = { type: DataTypes.INTEGER, allowNull: false, primaryKey: true } as const

/** The key of a table that holds one row only. */
export const onlyRow = {
  type: DataTypes.BOOLEAN,
  field: 'one',
  primaryKey: true,
  defaultValue: true,
} as const

/** What holds now ends at infinity, which no date of JavaScript is. */
export const holdsNow = { [Op.eq]: literal(`'infinity'`) }
