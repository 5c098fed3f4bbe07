import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/**
 * Attempts are counts of a minute: after a crash they may begin at nought. Unlogged, counting one does not wait for the disk, which
 * every change would otherwise do twice.
 */
export const unloggedAttempts: Migration = {
  name: '0007-unlogged-attempts',
  up: async (database) => {
    await run(database, 'ALTER TABLE attempt SET UNLOGGED')
  },
}
