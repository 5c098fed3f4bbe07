import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { openCluster } from './cluster.mjs'
import { root } from './packages.mjs'
import { CommandError, say } from './say.mjs'

/** Where a workspace's database is: our own cluster in a folder, or one of the person's own. @param {string | true | undefined} data */
export async function openWorkspace(data) {
  const own = process.env['BLUESTEM_DATABASE_URL']
  if (own) return { url: own, adminUrl: own, folder: undefined, stop: async () => {} }
  const folder = resolve(typeof data === 'string' ? data : join(root, '.bluestem'))
  mkdirSync(folder, { recursive: true })
  const release = hold(folder)
  try {
    const cluster = await openCluster(folder, { guarded: true })
    await makeDatabase(cluster)
    return {
      url: cluster.url,
      adminUrl: cluster.adminUrl,
      folder: cluster.folder,
      stop: async () => {
        await cluster.stop()
        release()
      },
    }
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
    if (pid !== process.pid && isOurs(pid))
      throw new CommandError(
        `Bluestem already runs on this data folder (process ${pid}); stop it first, or choose another folder with --data.`,
      )
  }
  writeFileSync(file, String(process.pid))
  return () => rmSync(file, { force: true })
}

/** @param {number} pid */
function isOurs(pid) {
  try {
    return /scripts\/(start|demo|bench|screenshots)\.mjs/.test(
      readFileSync(`/proc/${pid}/cmdline`, 'utf8'),
    )
  } catch {
    return false
  }
}

/**
 * Where a database is: for the server's own role, and for the one that may make databases.
 * @typedef {{ url: string, adminUrl: string }} Place
 */

/** @param {string} url @param {(client: import('pg').Client) => Promise<void>} work */
async function asAdmin(url, work) {
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  try {
    await work(client)
  } finally {
    await client.end()
  }
}

const nameIn = (/** @type {string} */ url) => new URL(url).pathname.slice(1)
const roleIn = (/** @type {string} */ url) => new URL(url).username
const maintenance = (/** @type {string} */ url) => url.replace(/\/[^/]+$/, '/postgres')

/** Gives everything in a database to the role of the server: one of before was made by the owner of the cluster. @param {string} role */
const handOver = (role) => `DO $$ DECLARE one record; BEGIN
  FOR one IN SELECT format('ALTER TABLE %s OWNER TO ${role}', c.oid::regclass) AS sql FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'v', 'p') AND c.relowner <> '${role}'::regrole
    UNION ALL SELECT format('ALTER ROUTINE %s OWNER TO ${role}', p.oid::regprocedure) FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace AND p.proowner <> '${role}'::regrole AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
  LOOP EXECUTE one.sql; END LOOP;
END $$`

/** Makes the database of a cluster when it is missing; it belongs to the server's role, which may do nothing else. @param {Place} place */
export async function makeDatabase({ url, adminUrl }) {
  const [name, role] = [nameIn(url), roleIn(url)]
  await asAdmin(maintenance(adminUrl), async (client) => {
    const found = await client.query('SELECT FROM pg_database WHERE datname = $1', [name])
    if (found.rowCount === 0)
      await client.query(
        `CREATE DATABASE ${name} OWNER ${role} TEMPLATE template0 ENCODING 'UTF8' LOCALE 'C.UTF-8'`,
      )
    else await client.query(`ALTER DATABASE ${name} OWNER TO ${role}`)
  })
  if (roleIn(adminUrl) === role) return
  await asAdmin(adminUrl.replace(/\/[^/]+$/, `/${name}`), async (client) => {
    await client.query(`ALTER SCHEMA public OWNER TO ${role}`)
    await client.query(handOver(role))
  })
}

/** Takes the database away and makes it anew. @param {Place} place */
export async function clearDatabase(place) {
  await asAdmin(
    maintenance(place.adminUrl),
    async (client) =>
      void (await client.query(`DROP DATABASE IF EXISTS ${nameIn(place.url)} WITH (FORCE)`)),
  )
  await makeDatabase(place)
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
    probe.once('error', () =>
      failed(
        new CommandError(
          `Port ${port} is in use; stop what uses it, or choose another with --port.`,
        ),
      ),
    )
    probe.listen(port, '127.0.0.1', () => probe.close(() => done()))
  })
}

/** Whether a failure says that the database went away, which is brought back. @param {unknown} error */
function isAway(error) {
  const { parent, code = '' } = /** @type {{ parent?: { code?: string }, code?: string }} */ (error)
  return (
    /^(?:ECONN|EPIPE|57P|08)/.test(parent?.code ?? code) ||
    /Connection terminated|ConnectionRefused/.test(String(error))
  )
}

/** Does work again when the database was ended in the middle of it. @template T @param {() => Promise<T>} work @returns {Promise<T>} */
export async function whileItComesBack(work) {
  for (let tries = 1; ; tries += 1) {
    try {
      return await work()
    } catch (error) {
      if (!isAway(error) || tries >= 30) throw error
      await new Promise((done) => setTimeout(done, 1000))
    }
  }
}

/** Migrates, and fills an empty database with the demo or with a first administrator. A demo whose loading was cut short is loaded anew. @param {Place} place @param {{ empty?: boolean, items?: number }} [options] */
export async function fill(place, { empty = false, items = 2500 } = {}) {
  const server = await import(join(root, 'server/dist/main.js'))
  const { url } = place
  const { migrated, state } = await server.prepare(url)
  if (migrated.length > 0) say(`migrated: ${migrated.join(', ')}`)
  if (state === 'ready') return
  if (state === 'half loaded') {
    say('loading the demo was cut short; it is begun anew')
    await clearDatabase(place)
    await server.prepare(url)
  }
  if (empty) return await server.begin(url, await firstAdministrator())
  say(`loading the demo: Marrowmere Ferries, ${items.toLocaleString('en')} items`)
  const loaded = await server.demo(url, items)
  say(
    `loaded ${loaded.items.toLocaleString('en')} items with ${loaded.states.toLocaleString('en')} states`,
  )
}

/** Asks who the first administrator is; from the environment where nobody can answer. */
async function firstAdministrator() {
  const { createInterface } = await import('node:readline/promises')
  const [name, email, password] = ['NAME', 'EMAIL', 'PASSWORD'].map(
    (part) => process.env[`BLUESTEM_ADMIN_${part}`],
  )
  if (name && email && password) return { name, email, password }
  if (!process.stdin.isTTY)
    throw new CommandError(
      'An empty workspace needs a first administrator: set BLUESTEM_ADMIN_NAME, BLUESTEM_ADMIN_EMAIL and BLUESTEM_ADMIN_PASSWORD, or start it at a terminal.',
    )
  const ask = createInterface({ input: process.stdin, output: process.stdout })
  const answer = {
    name: await ask.question('Name of the first administrator: '),
    email: await ask.question('E-mail: '),
    password: await ask.question('Password: '),
  }
  ask.close()
  if (!answer.name.trim() || !/.+@.+/.test(answer.email) || answer.password.length < 8)
    throw new CommandError(
      'The first administrator needs a name, an e-mail address and a password of at least 8 characters.',
    )
  return answer
}
