import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** A draft is shared, or its maker's alone. */
export const ownDrafts: Migration = {
  name: '0014-own-drafts',
  up: async (database) => {
    await run(database, 'ALTER TABLE draft ADD COLUMN shared boolean NOT NULL DEFAULT true')
  },
}
