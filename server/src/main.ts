import { createServer, type Server } from 'node:http'
import pg from 'pg'
import { makeApp } from './app.ts'
import { connect, rows } from './database/connect.ts'
import { migrate } from './database/migrations.ts'
import { Worlds } from './workspace/world.ts'
import { loadDemo } from './demo/load.ts'
import { Jobs } from './jobs/jobs.ts'
import { carryOutMappings } from './items/remapJob.ts'
import { usageLately } from './definitions/recentUsage.ts'
import { prune } from './jobs/prune.ts'
import { publishSetDraft } from './definitions/publishJob.ts'
import { Live } from './live/stream.ts'
import { beginEmpty } from './people/begin.ts'

export interface Options {
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
    const [found] = await rows<{ empty: boolean; half: boolean }>(
      database,
      'SELECT NOT EXISTS (SELECT FROM edition) AS empty, EXISTS (SELECT FROM setting WHERE NOT loaded) AS half',
    )
    return { migrated, state: found!.empty ? 'empty' : found!.half ? 'half loaded' : 'ready' }
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

const hour = 3_600_000

/** Serves until closed. */
export async function serve({
  url,
  port,
  secret,
  screens,
  logs = false,
  signIns = 20,
  writes = 1200,
  mapAtOnce,
  address,
  proxies = [],
}: Options): Promise<{ port: number; close: () => Promise<void> }> {
  const database = connect(url)
  const sessions = new pg.Pool({ connectionString: url, max: 4 })
  // A lost connection is replaced at the next query.
  sessions.on('error', () => undefined)
  const worlds = new Worlds(database)
  const live = new Live(database, url, worlds)
  await live.start()
  const jobs = new Jobs(
    database,
    url,
    {
      mapping: carryOutMappings(database, worlds, clock),
      publish: publishSetDraft(database, worlds, clock),
    },
    clock,
  )
  const app = makeApp({
    database,
    worlds,
    sessions,
    live,
    secret,
    screens,
    clock,
    logs,
    signIns,
    writes,
    proxies,
    ...(address === undefined ? {} : { address }),
    ...(mapAtOnce === undefined ? {} : { mapAtOnce }),
  })
  const server = createServer(app)
  await new Promise<void>((done, failed) => {
    server.once('error', failed)
    server.listen(port, '127.0.0.1', done)
  })
  jobs.start()
  // The first look at Definitions finds everything counted, however many items there are.
  void worlds
    .now()
    .then(
      async (world) =>
        await usageLately(
          database,
          world,
          world.projects.map((project) => project.number),
        ),
    )
    .catch(() => undefined)
  const pruning = setInterval(() => void prune(database).catch(() => undefined), hour)
  void prune(database).catch(() => undefined)
  return {
    port: portOf(server),
    close: async () => {
      clearInterval(pruning)
      await close(server, jobs, live, sessions, database)
    },
  }
}

const portOf = (server: Server): number => {
  const address = server.address()
  return typeof address === 'object' && address ? address.port : 0
}

async function close(
  server: Server,
  jobs: Jobs,
  live: Live,
  sessions: pg.Pool,
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
