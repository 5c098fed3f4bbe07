import type { ItemRow } from './row.ts'
import type { World } from '../workspace/world.ts'

/** The ETag of an item is the instant its present state began, and the edition in whose words it is told. */
export const etagOf = (world: World, { row_from }: Pick<ItemRow, 'row_from'>): string =>
  `"${row_from.getTime()}.${world.edition}"`
