import type { Migration } from './migration.ts'
import { row, run } from '../connect.ts'

/** The index that a search in descriptions asks: trigrams of the folded text that holds now. A mass load makes it after the rows. */
export const textIndexes: readonly string[] = [
  `CREATE INDEX item_text_description ON item_text USING gin (casei(description) gin_trgm_ops) WHERE valid_to = 'infinity'`,
]

/** What stands below what, with all that the usual roll-ups ask of it, so that they need not look at the items. */
export const treeIndex =
  'CREATE INDEX item_parent ON item (parent_id) INCLUDE (id, phase, project_id, deleted, estimate) WHERE parent_id IS NOT NULL'

/** The texts that hold now, by item: what every question about the present joins. */
const present = `CREATE INDEX item_text_present ON item_text (item_id) WHERE valid_to = 'infinity'`

export const textIndex: Migration = {
  name: '0006-text-index',
  up: async (database) => {
    await run(database, present)
    await run(database, `DROP INDEX item_parent; ${treeIndex}`)
    // In a database of one's own the extension may not be there to be had; searches then read every description.
    const available = await row<{ there: boolean }>(
      database,
      `SELECT EXISTS (SELECT FROM pg_available_extensions WHERE name = 'pg_trgm') AS there`,
    )
    if (!available.there) return
    await run(database, 'CREATE EXTENSION IF NOT EXISTS pg_trgm')
    for (const sql of textIndexes) await run(database, sql)
  },
}
