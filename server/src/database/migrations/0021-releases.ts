import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** A release belongs to one project or several; what it is for, when it was started and finished. Its items are found by two indexes. */
export const releases: Migration = {
  name: '0021-releases',
  up: async (database) => {
    await run(
      database,
      `CREATE TABLE release_project (release_id int NOT NULL REFERENCES release ON DELETE CASCADE, project_id int NOT NULL REFERENCES project,
        PRIMARY KEY (release_id, project_id));
      INSERT INTO release_project SELECT id, project_id FROM release WHERE project_id IS NOT NULL;
      CREATE INDEX release_project_project ON release_project (project_id);
      ALTER TABLE release DROP project_id, ADD goal text NOT NULL DEFAULT '', ADD started_at timestamptz(3), ADD finished_at timestamptz(3),
        ADD version int NOT NULL DEFAULT 1;
      CREATE TRIGGER living_changed AFTER INSERT OR UPDATE OR DELETE ON release_project FOR EACH STATEMENT EXECUTE FUNCTION living_changed();
      CREATE INDEX item_release ON item (release_id) WHERE release_id IS NOT NULL;
      CREATE INDEX item_version_release ON item_version (release_id) WHERE release_id IS NOT NULL`,
    )
  },
}
