import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/**
 * A comment that is said otherwise is another row of the same comment, `at` when it began to say so; one that is taken back ends, and
 * says by whom.
 */
export const comments: Migration = {
  name: '0019-comments',
  up: async (database) => {
    await run(
      database,
      `ALTER TABLE comment ADD first_id int REFERENCES comment, ADD ended_by_id int REFERENCES person;
      CREATE INDEX comment_first ON comment (first_id) WHERE first_id IS NOT NULL`,
    )
  },
}
