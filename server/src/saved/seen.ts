import { type InferAttributes, Op, type WhereOptions } from 'sequelize'
import type { SavedModel } from '../database/models/saved.ts'

export type SavedRow = Readonly<InferAttributes<SavedModel>>

/** The saved things that a person may see: the shared ones and their own. */
export const seenBy = (person: number): WhereOptions<SavedRow> => ({
  [Op.or]: [{ shared: 'everyone' }, { ownerId: person }],
})
