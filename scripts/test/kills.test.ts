import { spawn, type ChildProcess } from 'node:child_process'
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort } from '../cluster.mjs'

/** How many kills: a few in every run, thirty in the long one. Every fifth comes while it is still starting. */
const kills = process.env['BLUESTEM_LONG'] ? 30 : 4
const what = ['server', 'database', 'both'] as const
const root = new URL('../..', import.meta.url).pathname

let folder: string
let port: number
let running: ChildProcess
let said = ''
let cookie = ''
const acknowledged: string[] = []

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bluestem-kills-'))
  chmodSync(folder, 0o755)
  port = await freePort()
})
afterAll(async () => {
  running?.kill('SIGTERM')
  await ended(running)
  rmSync(folder, { recursive: true, force: true })
}, 60_000)

const ended = async (child: ChildProcess): Promise<void> => {
  if (child && child.exitCode === null && child.signalCode === null)
    await new Promise((done) => child.once('exit', done))
}

function start(): void {
  said = ''
  running = spawn(
    process.execPath,
    [join(root, 'scripts/start.mjs'), '--data', folder, '--port', String(port)],
    { stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, NODE_ENV: 'production' } },
  )
  for (const stream of [running.stdout!, running.stderr!])
    stream.on('data', (chunk: Buffer) => {
      said += chunk.toString()
    })
}

/** Waits until it answers; a start that ends instead has failed. */
async function up(): Promise<void> {
  for (let tries = 0; tries < 1800; tries += 1) {
    if (said.includes('Bluestem answers at')) return
    if (running.exitCode !== null) throw new Error(`it ended with ${running.exitCode}: ${said}`)
    await pause(50)
  }
  throw new Error(`it does not come up: ${said}`)
}

/** The process of the database, when there is one. */
function database(): number | undefined {
  try {
    return Number(readFileSync(join(folder, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0])
  } catch {
    return undefined
  }
}

const killed = (pid: number | undefined): void => {
  try {
    if (pid) process.kill(pid, 'SIGKILL')
  } catch {
    // It had ended by itself.
  }
}

const call = async (method: string, path: string, body?: object): Promise<Response> =>
  await fetch(`http://127.0.0.1:${port}/api/v1${path}`, {
    method,
    headers: { cookie, 'content-type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  })

async function signIn(): Promise<void> {
  const attempt = async (): Promise<Response> =>
    await call('POST', '/session', {
      email: 'tom.okafor@marrowmere.example',
      password: 'marrowmere',
    })
  let answer = await attempt()
  // The database may just have been killed; the server says so until it is back.
  for (let tries = 0; tries < 300 && answer.status === 503; tries += 1) {
    await pause(200)
    answer = await attempt()
  }
  expect(answer.status).toBe(201)
  cookie = answer.headers.getSetCookie()[0]!.split(';')[0]!
}

/** Makes items until told to stop; what is answered 201 must be there ever after. */
function writing(): { stop: () => Promise<readonly number[]> } {
  let on = true
  const statuses: number[] = []
  const work = (async () => {
    while (on) {
      const answer = await call('POST', '/items', {
        project: 'YARD',
        type: 'Defect',
        title: `Written ${acknowledged.length}`,
      }).catch(() => undefined)
      if (answer) statuses.push(answer.status)
      if (answer?.status === 503) expect(answer.headers.get('retry-after')).toBeTruthy()
      if (answer?.status === 201)
        acknowledged.push(((await answer.json().catch(() => ({}))) as { ref?: string }).ref ?? '')
      await pause(5)
    }
  })()
  return {
    stop: async () => {
      on = false
      await work
      return statuses
    },
  }
}

describe('whatever is killed', () => {
  it(`it comes up at the first start, and nothing that was acknowledged is lost (${kills} kills)`, async () => {
    start()
    for (let round = 0; round < kills; round += 1) {
      const early = round % 5 === 0
      if (early) await pause(200 + ((round * 977) % 4000))
      else await up()
      if (!early) await signIn()
      const writer = early ? undefined : writing()
      if (writer) await pause(300 + ((round * 131) % 700))
      const target = early && round === 0 ? 'both' : what[round % 3]
      const before = database()
      if (target !== 'server') killed(before)
      if (target !== 'database') {
        running.kill('SIGKILL')
        await ended(running)
      } else if (writer) {
        // The server is still there: it says that the database is away, never that something is a defect, and goes on by itself.
        for (let tries = 0; tries < 600 && database() === before; tries += 1) await pause(50)
        for (
          let tries = 0;
          tries < 600 && (await call('GET', '/items?limit=1')).status !== 200;
          tries += 1
        )
          await pause(100)
        expect((await call('GET', '/items?limit=1')).status, said).toBe(200)
      }
      const statuses = (await writer?.stop()) ?? []
      expect(statuses.filter((status) => status >= 500 && status !== 503)).toEqual([])
      if (target !== 'database') start()
    }
    await up()
    await signIn()
    const made = acknowledged.filter(Boolean)
    const found = (await (
      await call('POST', '/items/search', {
        filter: "title LIKE 'Written %'",
        fields: 'ref',
        limit: 1000,
      })
    ).json()) as { total: number; items: { ref: string }[] }
    expect(made.length).toBeGreaterThan(kills)
    expect(found.total).toBeGreaterThanOrEqual(made.length)
    if (found.total <= 1000)
      expect(made.filter((ref) => !found.items.some((item) => item.ref === ref))).toEqual([])
  }, 1_800_000)
})
