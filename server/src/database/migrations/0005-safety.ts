import type { Migration } from './migration.ts'
import { run } from '../connect.ts'

/** Whoever listens is looked at again as soon as a right changes; what only one person may know is told to them alone. */
const rights = `
  ALTER TABLE project ADD COLUMN version int NOT NULL DEFAULT 1;
  CREATE OR REPLACE FUNCTION living_changed() RETURNS trigger LANGUAGE plpgsql AS $body$ BEGIN UPDATE living SET version = version + 1; PERFORM pg_notify('living', ''); RETURN NULL; END $body$;
  ALTER TABLE outbox ADD COLUMN person_id int;
  -- A number given to a new item changes nothing that anybody could name.
  DROP TRIGGER living_changed ON project;
  CREATE TRIGGER living_changed AFTER INSERT OR DELETE OR UPDATE OF title, description, open, code, calendar_id, version ON project FOR EACH STATEMENT EXECUTE FUNCTION living_changed();`

/** Attempts are a count for each key and window. They are not worth a write to the disk: after a crash counting begins anew. */
const attempts = `
  DROP TABLE attempt;
  CREATE UNLOGGED TABLE attempt (key text PRIMARY KEY, hits int NOT NULL, ends timestamptz NOT NULL);
  CREATE INDEX ON attempt (ends);`

/** A demo whose loading was cut short is known by this, and loaded anew. */
const loading = 'ALTER TABLE setting ADD COLUMN loaded boolean NOT NULL DEFAULT true;'

/** Versions that a change is judged by in the same statement that makes it. */
const versions = `
  CREATE TABLE rulebook_keeping (rulebook text PRIMARY KEY, version int NOT NULL);
  INSERT INTO rulebook_keeping (rulebook, version) SELECT DISTINCT rulebook, 1 FROM rulebook_keeper;`

/** Two who make the same at one moment: one wins. What rests on a query keeps it from being deleted. */
const references = `
  CREATE UNIQUE INDEX component_title ON component (project_id, lower(title)) WHERE NOT retired;
  CREATE UNIQUE INDEX team_title ON team (lower(title));
  CREATE INDEX answered_at ON answered (at);
  CREATE INDEX outbox_at ON outbox (at);
  ALTER TABLE view ADD COLUMN rests_on text GENERATED ALWAYS AS (content->>'query') STORED;
  ALTER TABLE view ADD CONSTRAINT view_query FOREIGN KEY (rests_on) REFERENCES query (identity) NOT VALID;
  ALTER TABLE measure ADD COLUMN rests_on text GENERATED ALWAYS AS (content->>'query') STORED;
  ALTER TABLE measure ADD CONSTRAINT measure_query FOREIGN KEY (rests_on) REFERENCES query (identity) NOT VALID;`

export const safety: Migration = {
  name: '0005-safety',
  up: async (database) => {
    for (const sql of [rights, loading, attempts, versions, references]) await run(database, sql)
  },
}
