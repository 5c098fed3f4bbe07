import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** A draft that was dropped is told from one that was published, so that it can be taken back. */
export const droppedDrafts: Migration = {
  name: '0010-dropped-drafts',
  up: async (database) => {
    await run(database, 'ALTER TABLE draft ADD COLUMN dropped_by int REFERENCES person')
  },
}
