import { spawn, spawnSync } from 'node:child_process'
import {
  chmodSync,
  mkdtempSync,
  mkdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
  existsSync,
} from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openCluster } from '../cluster.mjs'
import { readFlags } from '../say.mjs'
import { clearDatabase } from '../workspace.mjs'

const root = new URL('../..', import.meta.url).pathname
const start = (...flags: string[]) =>
  spawnSync(process.execPath, [join(root, 'scripts/start.mjs'), ...flags], {
    encoding: 'utf8',
    timeout: 60_000,
  })

describe('starting with something amiss says one clear sentence and ends with 2', () => {
  let folder: string
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'bluestem-start-'))
    chmodSync(folder, 0o755)
  })
  afterAll(() => rmSync(folder, { recursive: true, force: true }))

  it('a wrong flag', () => {
    const { status, stderr } = start('--prot', '80')
    expect([status, stderr.trim()]).toEqual([
      2,
      'There is no option “--prot”; there are --port, --data, --empty, --fresh, --dev, --logs.',
    ])
  })

  it.each([
    ['--port', 'eighty'],
    ['--port', '70000'],
    ['--port', '0'],
  ])('a wrong value: %s %s', (flag, value) => {
    const { status, stderr } = start(flag, value)
    expect([status, stderr.trim()]).toEqual([
      2,
      `The option ${flag} takes a whole number from 1 to 65535; “${value}” is none.`,
    ])
  })

  it('a port in use, before anything is made', async () => {
    const taken = createServer().listen(0, '127.0.0.1')
    await new Promise((done) => taken.once('listening', done))
    const { port } = taken.address() as { port: number }
    const { status, stderr } = start('--port', String(port), '--data', join(folder, 'never'))
    taken.close()
    expect([status, stderr.trim()]).toEqual([
      2,
      `Port ${port} is in use; stop what uses it, or choose another with --port.`,
    ])
    expect(existsSync(join(folder, 'never'))).toBe(false)
  })

  it('data of another version of PostgreSQL, which stays as it is', async () => {
    const old = join(folder, 'old')
    mkdirSync(join(old, 'postgres'), { recursive: true })
    writeFileSync(join(old, 'postgres', 'PG_VERSION'), '9.6\n')
    await expect(openCluster(old, { tests: true })).rejects.toThrow(/was made by PostgreSQL 9.6/)
    expect(readFileSync(join(old, 'postgres', 'PG_VERSION'), 'utf8')).toBe('9.6\n')
  })

  it('a value that is missing', () => {
    expect(() => readFlags(['--data'], { data: 'value' })).toThrow(
      'The option --data needs a value.',
    )
  })
})

describe('a cluster', () => {
  it('gives the server a role that is no superuser, and keeps passwords and the log to their owner', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'bluestem-role-'))
    chmodSync(folder, 0o755)
    const cluster = await openCluster(folder)
    try {
      await clearDatabase(cluster)
      const client = new pg.Client({ connectionString: cluster.url })
      await client.connect()
      const { rows } = await client.query(
        'SELECT rolsuper, rolcreaterole, rolcreatedb, rolreplication FROM pg_roles WHERE rolname = current_user',
      )
      await client.end()
      expect(rows).toEqual([
        { rolsuper: false, rolcreaterole: false, rolcreatedb: false, rolreplication: false },
      ])
      const files = ['postgres.log', 'server-password'].map(
        (file) => statSync(join(folder, file)).mode & 0o777,
      )
      expect(files).toEqual([0o600, 0o600])
    } finally {
      await cluster.stop()
      rmSync(folder, { recursive: true, force: true })
    }
  }, 60_000)

  it('that a killed program left running is taken over by the next start, and a half-made one is made anew', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'bluestem-cluster-'))
    chmodSync(folder, 0o755)
    mkdirSync(join(folder, 'postgres', 'half-made'), { recursive: true })
    const script = `import { openCluster } from ${JSON.stringify(join(root, 'scripts/cluster.mjs'))}; const { url } = await openCluster(${JSON.stringify(folder)}, { tests: true }); process.stdout.write(url); process.kill(process.pid, 'SIGKILL')`
    const killed = spawn(process.execPath, ['--input-type=module', '-e', script], {
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    let told = ''
    killed.stdout.on('data', (chunk: Buffer) => {
      told += chunk.toString()
    })
    await new Promise((done) => killed.on('exit', done))
    const pid = readFileSync(join(folder, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0]
    const again = await openCluster(folder, { tests: true })
    expect(told).toContain(again.url)
    expect(readFileSync(join(folder, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0]).toBe(
      pid,
    )
    await again.stop()
    // A process that ended may wait for its parent to notice; it runs nothing any more.
    expect(existsSync(`/proc/${pid}`) ? readFileSync(`/proc/${pid}/cmdline`, 'utf8') : '').toBe('')
    rmSync(folder, { recursive: true, force: true })
  }, 60_000)
})
