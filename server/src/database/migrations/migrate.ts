import { Logger, runMigrations } from 'graphile-worker'
import type { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { queuePool } from '../queuePool.ts'
import { begin } from './0001-begin.ts'
import { definitionsWhole } from './0002-definitions-whole.ts'
import { teamsWhole } from './0003-teams.ts'
import { quickerCasefold } from './0004-casefold.ts'
import { safety } from './0005-safety.ts'
import { textIndex } from './0006-text-index.ts'
import { unloggedAttempts } from './0007-unlogged-attempts.ts'
import { queue } from './0008-queue.ts'
import { people } from './0009-people.ts'
import { droppedDrafts } from './0010-dropped-drafts.ts'
import { words } from './0011-words.ts'
import { treeEdges } from './0012-tree-edges.ts'
import { titleIndex } from './0013-title-index.ts'
import { ownDrafts } from './0014-own-drafts.ts'
import { bulk } from './0015-bulk.ts'
import { importFile } from './0016-import.ts'
import { jot } from './0017-jot.ts'
import { iterations } from './0018-iterations.ts'
import { comments } from './0019-comments.ts'
import { followers } from './0020-followers.ts'
import { releases } from './0021-releases.ts'
import { movedRefs } from './0022-moved-refs.ts'
import { subscriptions } from './0023-subscriptions.ts'
import { invitations } from './0024-invitations.ts'
import { merges } from './0025-merges.ts'
import type { Migration } from './migration.ts'

/** Every migration in order. The list is written out, so that the bundle holds them all. */
const migrations: readonly Migration[] = [
  begin,
  definitionsWhole,
  teamsWhole,
  quickerCasefold,
  safety,
  textIndex,
  unloggedAttempts,
  queue,
  people,
  droppedDrafts,
  words,
  treeEdges,
  titleIndex,
  ownDrafts,
  bulk,
  importFile,
  jot,
  iterations,
  comments,
  followers,
  releases,
  movedRefs,
  subscriptions,
  invitations,
  merges,
]

/** Brings the tables of the queue up to date, which it keeps itself, in a schema of its own. */
async function migrateQueue({ config }: Sequelize): Promise<void> {
  const { username, password, host, port, database } = config
  const pool = queuePool({
    user: username,
    password: password ?? undefined,
    host,
    port: Number(port),
    database,
    max: 1,
  })
  try {
    await runMigrations({ pgPool: pool, logger: silent })
  } finally {
    await pool.end()
  }
}

const silent = new Logger(() => () => undefined)

/** Brings the tables up to date. @returns the names of the migrations that ran */
export async function migrate(database: Sequelize): Promise<string[]> {
  await migrateQueue(database)
  const umzug = new Umzug({
    migrations: migrations.map(({ name, up }) => ({ name, up: async () => await up(database) })),
    storage: new SequelizeStorage({ sequelize: database, tableName: 'migration' }),
    logger: undefined,
  })
  // What migrations do and that they were done are one transaction: after a kill in between, all of it is done again.
  const ran = await database.transaction(async () => await umzug.up())
  return ran.map((migrationMeta) => migrationMeta.name)
}
