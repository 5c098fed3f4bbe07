import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** Under which refs items were known before they went to another project, so that an old ref leads to where they are. */
export const movedRefs: Migration = {
  name: '0022-moved-refs',
  up: async (database) => {
    await run(
      database,
      `CREATE TABLE moved_ref (project_id int NOT NULL REFERENCES project, number int NOT NULL, item_id int NOT NULL,
        PRIMARY KEY (project_id, number))`,
    )
  },
}
