import type { Migration } from './migration.ts'
import { run } from '../connect.ts'

/** Teams get people and a remit: the query for the items that are theirs, kept in `content` as queries keep theirs. */
const teams = `
  ALTER TABLE team ADD COLUMN content jsonb NOT NULL DEFAULT '{"remit": null}', ADD COLUMN version int NOT NULL DEFAULT 1;
  CREATE TABLE team_member (team_id int NOT NULL REFERENCES team, person_id int NOT NULL REFERENCES person, PRIMARY KEY (team_id, person_id));
  CREATE TRIGGER living_changed AFTER INSERT OR DELETE OR UPDATE ON team_member FOR EACH STATEMENT EXECUTE FUNCTION living_changed();`

export const teamsWhole: Migration = {
  name: '0003-teams',
  up: async (database) => await run(database, teams),
}
