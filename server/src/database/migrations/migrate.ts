import type { Migration } from './migration.ts'
import type { Sequelize } from 'sequelize'
import { Umzug, type UmzugStorage } from 'umzug'
import { begin } from './0001-begin.ts'
import { definitionsWhole } from './0002-definitions-whole.ts'
import { teamsWhole } from './0003-teams.ts'
import { quickerCasefold } from './0004-casefold.ts'
import { safety } from './0005-safety.ts'
import { textIndex } from './0006-text-index.ts'
import { unloggedAttempts } from './0007-unlogged-attempts.ts'
import { rows, run } from '../connect.ts'

/** Every migration in order. The list is written out, so that the bundle holds them all. */
const migrations: readonly Migration[] = [
  begin,
  definitionsWhole,
  teamsWhole,
  quickerCasefold,
  safety,
  textIndex,
  unloggedAttempts,
]

class Migrated implements UmzugStorage {
  readonly #database: Sequelize
  constructor(database: Sequelize) {
    this.#database = database
  }

  async logMigration({ name }: { name: string }): Promise<void> {
    await run(this.#database, 'INSERT INTO migration (name) VALUES ($1) ON CONFLICT DO NOTHING', [
      name,
    ])
  }

  async unlogMigration({ name }: { name: string }): Promise<void> {
    await run(this.#database, 'DELETE FROM migration WHERE name = $1', [name])
  }

  async executed(): Promise<string[]> {
    await run(
      this.#database,
      'CREATE TABLE IF NOT EXISTS migration (name text PRIMARY KEY, at timestamptz NOT NULL DEFAULT now())',
    )
    return (
      await rows<{ name: string }>(this.#database, 'SELECT name FROM migration ORDER BY name')
    ).map((one) => one.name)
  }
}

/** Brings the tables up to date. @returns the names of the migrations that ran */
export async function migrate(database: Sequelize): Promise<string[]> {
  const storage = new Migrated(database)
  const umzug = new Umzug({
    // What a migration does and that it was done are one transaction: a kill in between would have it done twice.
    migrations: migrations.map(({ name, up }) => ({
      name,
      up: async () =>
        await database.transaction(async () => {
          await up(database)
          await storage.logMigration({ name })
        }),
    })),
    storage,
    logger: undefined,
  })
  return (await umzug.up()).map((one) => one.name)
}
