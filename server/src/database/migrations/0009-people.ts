import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** People are changed in the screens, several at once, so each has a version. */
export const people: Migration = {
  name: '0009-people',
  up: async (database) => {
    await run(database, 'ALTER TABLE person ADD COLUMN version int NOT NULL DEFAULT 1')
  },
}
