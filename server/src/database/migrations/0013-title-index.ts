import { row, run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** The index that a search in titles asks: trigrams of the folded titles that hold now. Without the extension every title is read. */
export const titleIndex: Migration = {
  name: '0013-title-index',
  up: async (database) => {
    const extension = await row<{ there: boolean }>(
      database,
      `SELECT EXISTS (SELECT FROM pg_extension WHERE extname = 'pg_trgm') AS there`,
    )
    if (!extension.there) return
    await run(
      database,
      `CREATE INDEX item_text_title ON item_text USING gin (casei(title) gin_trgm_ops) WHERE valid_to = 'infinity'`,
    )
  },
}
