import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** Who hears of an item, since when; and when somebody last looked at one. */
export const followers: Migration = {
  name: '0020-followers',
  up: async (database) => {
    await run(
      database,
      `CREATE TABLE follower (item_id int NOT NULL, person_id int NOT NULL REFERENCES person, since timestamptz(3) NOT NULL,
        PRIMARY KEY (item_id, person_id));
      CREATE INDEX follower_person ON follower (person_id);
      CREATE TABLE look (person_id int NOT NULL REFERENCES person, item_id int NOT NULL, at timestamptz(3) NOT NULL,
        PRIMARY KEY (person_id, item_id))`,
    )
  },
}
