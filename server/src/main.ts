import type { Sequelize } from 'sequelize'
import { createServer, type Server } from 'node:http'
import type { Pool } from 'pg'
import { makeApp } from './app.ts'
import { connect } from './database/connect.ts'
import { modelsOf } from './database/models/models.ts'
import { keyedPool } from './database/prepared.ts'
import { migrate } from './database/migrations/migrate.ts'
import { Worlds } from './workspace/world.ts'
import { loadDemo } from './demo/load.ts'
import { JobWorker } from './jobs/worker.ts'
import { loggerFor } from './http/logger.ts'
import { carryOutBulk } from './bulk/job.ts'
import { carryOutImport } from './exchange/carryOutImport.ts'
import { carryOutMappings } from './items/remapJob.ts'
import { usageLately } from './definitions/recentUsage.ts'
import { publishSetDraft } from './definitions/publishJob.ts'
import type { DirectoryFiles } from './directory/routes.ts'
import { Live } from './live/stream.ts'
import { endWithRequests } from './sql/cancel.ts'
import { readStamp } from './sql/stamp.ts'
import { beginEmpty } from './people/begin.ts'

export interface Options extends DirectoryFiles {
  readonly url: string
  readonly port: number
  readonly secret: string
  readonly screens: string
  readonly logs?: boolean
  readonly signIns?: number
  readonly writes?: number
  readonly address?: string
  readonly proxies?: readonly string[]
  readonly mapAtOnce?: number
}

/** The clock; tests and pictures set it to a moment with BLUESTEM_NOW, from which it goes on. */
const pinned = process.env['BLUESTEM_NOW']
const ahead = pinned ? Date.parse(pinned) - Date.now() : 0
export const clock = (): Date => new Date(Date.now() + ahead)

/** Migrates a database. @returns the names of the migrations that ran, and whether anything, or half of something, has been set up in it */
export async function prepare(
  url: string,
): Promise<{ migrated: string[]; state: 'empty' | 'half loaded' | 'ready' }> {
  const database = connect(url)
  try {
    const migrated = await migrate(database)
    const { edition, setting } = modelsOf(database)
    const isEmpty = (await edition.count()) === 0
    const isHalf = (await setting.count({ where: { loaded: false } })) > 0
    return { migrated, state: isEmpty ? 'empty' : isHalf ? 'half loaded' : 'ready' }
  } finally {
    await database.close()
  }
}

/** Fills an empty database with the demo. @returns how many items and states were made */
export async function demo(url: string, items: number): Promise<{ items: number; states: number }> {
  const database = connect(url, { statementTimeout: 0 })
  try {
    return await loadDemo(database, { now: clock(), items })
  } finally {
    await database.close()
  }
}

/** Sets up an empty workspace with its first administrator. */
export async function begin(
  url: string,
  administrator: { name: string; email: string; password: string },
): Promise<void> {
  const database = connect(url)
  try {
    await beginEmpty(database, administrator, clock())
  } finally {
    await database.close()
  }
}

/** The first look at Definitions finds everything counted, however many items there are. */
async function countUsageAhead(database: Sequelize, worlds: Worlds): Promise<void> {
  const world = await worlds.now()
  const projects = world.projects.map((project) => project.number)
  await usageLately(database, world, projects)
}

const ignored = (): undefined => undefined

/** A pool for sessions alone; a lost connection is replaced at the next query. */
function sessionPool(url: string): Pool {
  const sessions = keyedPool({ connectionString: url, max: 4 })
  sessions.on('error', ignored)
  return sessions
}

const listen = (server: Server, port: number): Promise<void> =>
  new Promise((done, failed) => {
    server.once('error', failed)
    server.listen(port, '127.0.0.1', done)
  })

/** Serves until closed. */
export async function serve(
  options: Options,
): Promise<{ port: number; close: () => Promise<void> }> {
  const { url, port, logs = false, signIns = 20, writes = 1200, proxies = [] } = options
  const database = connect(url)
  endWithRequests(database, url)
  const sessions = sessionPool(url)
  const worlds = new Worlds(database, readStamp)
  const live = new Live(database, url, worlds)
  await live.start()
  const works = {
    mapping: carryOutMappings(database, worlds, clock),
    publish: publishSetDraft(database, worlds, clock),
    bulk: carryOutBulk(database, worlds, clock),
    import: carryOutImport(database, worlds, clock),
  }
  const logger = loggerFor(logs)
  const jobs = new JobWorker({ database, url, works, clock, logger })
  const parts = { database, worlds, sessions, live, clock, logger }
  const server = createServer(makeApp({ ...options, ...parts, signIns, writes, proxies }))
  await listen(server, port)
  jobs.start()
  void countUsageAhead(database, worlds).catch(ignored)
  return {
    port: portOf(server),
    close: async () => await close(server, jobs, live, sessions, database),
  }
}

const portOf = (server: Server): number => {
  const address = server.address()
  return typeof address === 'object' && address ? address.port : 0
}

async function close(
  server: Server,
  jobs: JobWorker,
  live: Live,
  sessions: Pool,
  database: ReturnType<typeof connect>,
): Promise<void> {
  const closed = new Promise<void>((done) => server.close(() => done()))
  await jobs.stop()
  await live.stop()
  server.closeAllConnections()
  await closed
  await sessions.end()
  await database.close()
}
