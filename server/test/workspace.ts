import { loggerFor } from '../src/http/logger.ts'
import pg from 'pg'
import type { Sequelize } from 'sequelize'
import { connect } from '../src/database/connect.ts'
import { Worlds, type World } from '../src/workspace/world.ts'
import type { Person } from '../src/workspace/living.ts'
import { readStamp } from '../src/sql/stamp.ts'
import { Live } from '../src/live/stream.ts'
import { makeApp } from '../src/app.ts'
import { endWithRequests } from '../src/sql/cancel.ts'
import { databaseUrl } from '../../scripts/checks/cluster.mjs'
import { administer, dropDatabase } from './cluster.ts'
import { testNow } from './setup.ts'

export interface Workspace {
  readonly database: Sequelize
  readonly worlds: Worlds
  readonly url: string
  readonly close: () => Promise<void>
}

let made = 0

/** A copy of the demo of one's own. */
export async function copyWorkspace(): Promise<Workspace> {
  const name = `test_${process.pid}_${(made += 1)}`
  await administer(`CREATE DATABASE ${name} TEMPLATE template_demo`)
  const database = connect(databaseUrl(name))
  return {
    database,
    worlds: new Worlds(database, readStamp),
    url: databaseUrl(name),
    close: async () => {
      await database.close()
      await dropDatabase(name)
    },
  }
}

export const personNamed = (world: World, name: string): Person =>
  world.people.find((person) => person.name === name)!

/** One answer of the API. */
export interface Reply {
  readonly status: number
  readonly body: any
  readonly etag: string
}

/** Somebody signed in, who calls the API over HTTP. */
export type Caller = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Reply>

export interface Served extends Workspace {
  readonly signIn: (name: string) => Promise<Caller>
  readonly origin: string
  setNow: (now: Date) => void
}

/** The application over a copy of the demo, answering on a port of the loopback. */
export async function serveWorkspace({
  mapAtOnce,
  signIns = 1000,
  writes = 1_000_000,
  ...files
}: {
  mapAtOnce?: number
  signIns?: number
  writes?: number
  directory?: string
  demoDirectory?: string
} = {}): Promise<Served> {
  const workspace = await copyWorkspace()
  endWithRequests(workspace.database, workspace.url)
  const sessions = new pg.Pool({ connectionString: workspace.url, max: 3 })
  const live = new Live(workspace.database, workspace.url, workspace.worlds)
  await live.start()
  let now = testNow
  const app = makeApp({
    database: workspace.database,
    worlds: workspace.worlds,
    sessions,
    live,
    secret: 'only for tests',
    screens: 'nowhere',
    clock: () => now,
    logger: loggerFor(false),
    signIns,
    writes,
    judgeAnswers: true,
    ...files,
    ...(mapAtOnce === undefined ? {} : { mapAtOnce }),
  })
  const server = app.listen(0, '127.0.0.1')
  await new Promise((done) => server.once('listening', done))
  const { port } = server.address() as { port: number }
  const origin = `http://127.0.0.1:${port}`
  return {
    ...workspace,
    origin,
    setNow: (moment) => {
      now = moment
    },
    signIn: async (name) => await signIn(origin, name),
    close: async () => {
      await live.stop()
      server.closeAllConnections()
      await new Promise((done) => server.close(done))
      await sessions.end()
      await workspace.close()
    },
  }
}

export async function signIn(
  origin: string,
  name: string,
  password = 'marrowmere',
): Promise<Caller> {
  const response = await fetch(`${origin}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      email: `${name.toLowerCase().replaceAll(' ', '.')}@marrowmere.example`,
      password,
    }),
  })
  if (response.status !== 201) throw new Error(`sign-in answered ${response.status}`)
  const cookie = response.headers
    .getSetCookie()
    .map((text) => text.split(';')[0])
    .join('; ')
  return caller(origin, { cookie })
}

export const caller =
  (origin: string, own: Record<string, string>): Caller =>
  async (method, path, body, headers = {}) => {
    const response = await fetch(`${origin}/api/v1${path}`, {
      method,
      headers: {
        ...own,
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    const text = await response.text()
    return {
      status: response.status,
      body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text,
      etag: response.headers.get('etag') ?? '',
    }
  }
