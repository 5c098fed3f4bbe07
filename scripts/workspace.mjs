import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { openCluster } from './cluster.mjs'
import { root } from './packages.mjs'
import { Plain, say } from './say.mjs'

/** Where a workspace's database is: our own cluster in a folder, or one of the person's own. @param {string | true | undefined} data */
export async function openWorkspace(data) {
  const own = process.env['BLUESTEM_DATABASE_URL']
  if (own) return { url: own, folder: undefined, stop: async () => {} }
  const folder = resolve(typeof data === 'string' ? data : join(root, '.bluestem'))
  mkdirSync(folder, { recursive: true })
  const release = hold(folder)
  try {
    const cluster = await openCluster(folder)
    await makeDatabase(cluster.url)
    return { url: cluster.url, folder: cluster.folder, stop: async () => { await cluster.stop(); release() } }
  } catch (error) {
    release()
    throw error
  }
}

/** Two programs on one data folder would stop each other's database: the second is told. @param {string} folder */
function hold(folder) {
  const file = join(folder, 'running.pid')
  if (existsSync(file)) {
    const pid = Number(readFileSync(file, 'utf8'))
    if (pid !== process.pid && isOurs(pid)) throw new Plain(`Bluestem already runs on this data folder (process ${pid}); stop it first, or choose another folder with --data.`)
  }
  writeFileSync(file, String(process.pid))
  return () => rmSync(file, { force: true })
}

/** @param {number} pid */
function isOurs(pid) {
  try {
    return /scripts\/(start|demo|bench|screenshots)\.mjs/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'))
  } catch {
    return false
  }
}

/** Makes the database of a cluster when it is missing. @param {string} url */
export async function makeDatabase(url) {
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: url.replace(/\/[^/]+$/, '/postgres') })
  await client.connect()
  try {
    const name = url.split('/').at(-1)
    const found = await client.query('SELECT FROM pg_database WHERE datname = $1', [name])
    if (found.rowCount === 0) await client.query(`CREATE DATABASE ${name} TEMPLATE template0 ENCODING 'UTF8' LOCALE 'C.UTF-8'`)
  } finally {
    await client.end()
  }
}

/** Takes the database away and makes it anew. @param {string} url */
export async function clearDatabase(url) {
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: url.replace(/\/[^/]+$/, '/postgres') })
  await client.connect()
  await client.query(`DROP DATABASE IF EXISTS ${url.split('/').at(-1)} WITH (FORCE)`)
  await client.end()
  await makeDatabase(url)
}

/** The secret that signs session cookies, made once for a folder. @param {string | undefined} folder */
export function secretOf(folder) {
  const given = process.env['BLUESTEM_SECRET']
  if (given) return given
  if (!folder) return randomBytes(32).toString('hex')
  const file = join(folder, 'secret')
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}

/** Says at once when a port is in use, before anything is made. @param {number} port @returns {Promise<void>} */
export function checkPort(port) {
  return new Promise((done, failed) => {
    const probe = createServer()
    probe.once('error', () => failed(new Plain(`Port ${port} is in use; stop what uses it, or choose another with --port.`)))
    probe.listen(port, '127.0.0.1', () => probe.close(() => done()))
  })
}

/** Migrates, and fills an empty database with the demo or with a first administrator. @param {string} url @param {{ empty?: boolean, items?: number }} [options] */
export async function fill(url, { empty = false, items = 2500 } = {}) {
  const server = await import(join(root, 'server/dist/main.js'))
  const { migrated, empty: blank } = await server.prepare(url)
  if (migrated.length > 0) say(`migrated: ${migrated.join(', ')}`)
  if (!blank) return
  if (empty) return await server.begin(url, await firstAdministrator())
  say(`loading the demo: Marrowmere Ferries, ${items.toLocaleString('en')} items`)
  const loaded = await server.demo(url, items)
  say(`loaded ${loaded.items.toLocaleString('en')} items with ${loaded.states.toLocaleString('en')} states`)
}

/** Asks who the first administrator is; from the environment where nobody can answer. */
async function firstAdministrator() {
  const { createInterface } = await import('node:readline/promises')
  const [name, email, password] = ['NAME', 'EMAIL', 'PASSWORD'].map((part) => process.env[`BLUESTEM_ADMIN_${part}`])
  if (name && email && password) return { name, email, password }
  if (!process.stdin.isTTY) throw new Plain('An empty workspace needs a first administrator: set BLUESTEM_ADMIN_NAME, BLUESTEM_ADMIN_EMAIL and BLUESTEM_ADMIN_PASSWORD, or start it at a terminal.')
  const ask = createInterface({ input: process.stdin, output: process.stdout })
  const answer = { name: await ask.question('Name of the first administrator: '), email: await ask.question('E-mail: '), password: await ask.question('Password: ') }
  ask.close()
  if (!answer.name.trim() || !/.+@.+/.test(answer.email) || answer.password.length < 8) throw new Plain('The first administrator needs a name, an e-mail address and a password of at least 8 characters.')
  return answer
}
