// npm test: types, lint, unit, server and browser tests over a throwaway cluster; the last line counts them.
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, chmodSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureChromium, ensurePackages, ensurePostgres, root } from './packages.mjs'
import { fail, say } from './say.mjs'

const parts = ['types', 'lint', 'unit', 'server', 'browser']
/** Publishing under fire at full size: hours, and only when it is asked for. */
const long = 'long'
const wanted = process.argv.slice(2).length > 0 ? process.argv.slice(2) : parts
const counts = { passed: 0, failed: 0 }
const stops = /** @type {(() => Promise<void> | void)[]} */ ([])

async function stop() {
  for (const one of stops.reverse()) await Promise.resolve(one()).catch(() => undefined)
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => void stop().then(() => process.exit(130)))

/** Runs a program of the tree and tells whether it went well. @param {string} name @param {string[]} args @param {Record<string, string>} [env] @returns {Promise<boolean>} */
async function runs(name, args, env = {}) {
  const child = spawn(process.execPath, [join(root, 'node_modules', name), ...args], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env, NODE_ENV: 'test', NO_COLOR: '1' },
  })
  stops.push(() => {
    if (child.exitCode === null) child.kill('SIGTERM')
  })
  return await new Promise((done) => child.on('exit', (code) => done(code === 0)))
}

/** Counts one check. @param {string} title @param {Promise<boolean>} result */
async function check(title, result) {
  const well = await result
  counts[well ? 'passed' : 'failed'] += 1
  say(`${well ? 'passed' : 'FAILED'}: ${title}`)
}

const lint = async () =>
  await check('lint', runs('eslint/bin/eslint.js', ['.', '--max-warnings', '0']))

const format = async () =>
  await check('format', runs('prettier/bin/prettier.cjs', ['--check', '.']))

const types = ['web', 'server', 'core', 'core/tsconfig.test.json', 'e2e', 'bench', 'scripts'].map(
  (project) => async () => {
    const compiler = project === 'web' ? 'vue-tsc/bin/vue-tsc.js' : 'typescript/bin/tsc'
    await check(`types of ${project}`, runs(compiler, ['-p', project]))
  },
)

/** Runs what needs no database two at a time, for there are two cores. @param {(() => Promise<void>)[]} tasks the longest first */
async function twoAtATime(tasks) {
  await Promise.all(
    [0, 1].map(async () => {
      for (let task = tasks.shift(); task; task = tasks.shift()) await task()
    }),
  )
}

/** Runs projects of the test runner and counts their tests. @param {string[]} projects @param {Record<string, string>} env @param {string[]} [files] */
async function tests(projects, env, files = /** @type {string[]} */ ([])) {
  say(`tests: ${projects.join(' and ')}`)
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-report-'))
  const report = join(folder, 'report.json')
  const well = await runs(
    'vitest/vitest.mjs',
    [
      'run',
      ...files,
      ...projects.flatMap((project) => ['--project', project]),
      // One file at a time: what a stream tells waits for the oldest transaction of the whole cluster.
      '--maxWorkers=1',
      '--reporter=dot',
      '--reporter=json',
      `--outputFile=${report}`,
    ],
    env,
  )
  try {
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(report, 'utf8'))
    counts.passed += numPassedTests
    counts.failed += numFailedTests
    // A file that could not even be read has no tests to fail; it fails all the same.
    if (!well && numFailedTests === 0) counts.failed += 1
  } catch {
    counts.failed += 1
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

try {
  ensurePackages()
  if (wanted.some((part) => part === 'server' || part === 'browser' || part === long))
    ensurePostgres()
  if (wanted.includes('browser')) ensureChromium()
  await twoAtATime([
    ...(wanted.includes('lint') ? [lint] : []),
    ...(wanted.includes('types') ? types : []),
    ...(wanted.includes('unit') ? [async () => await tests(['core', 'web'], {})] : []),
    ...(wanted.includes('lint') ? [format] : []),
  ])
  /** @type {Record<string, string>} */
  const env = {}
  /** @type {string | undefined} */
  let adminUrl
  if (wanted.some((part) => part === 'server' || part === 'browser' || part === long)) {
    const { openCluster } = await import('./cluster.mjs')
    const folder = mkdtempSync(join(tmpdir(), 'bluestem-test-'))
    chmodSync(folder, 0o755)
    const cluster = await openCluster(folder, { tests: true })
    stops.push(() => rmSync(folder, { recursive: true, force: true }), cluster.stop)
    env['BLUESTEM_TEST_URL'] = cluster.url
    adminUrl = cluster.adminUrl
  }
  if (wanted.includes('server')) {
    // Built once before, so that no two tests build at the same time.
    const { buildWhenStale } = await import('./build.mjs')
    await buildWhenStale()
    await tests(['server', 'scripts'], env)
  }
  if (wanted.includes(long)) {
    const { buildWhenStale } = await import('./build.mjs')
    await buildWhenStale()
    await tests(
      ['server', 'scripts'],
      { ...env, BLUESTEM_LONG: '1' },
      ['fire', 'writers', 'largeFile', 'fuzz', 'races', 'kills'].map(
        (name) => `${name === 'kills' ? 'scripts' : 'server'}/test/${name}.test.ts`,
      ),
    )
  }
  if (wanted.includes('browser')) {
    const { buildWhenStale } = await import('./build.mjs')
    await buildWhenStale()
    const { clearDatabase } = await import('./workspace.mjs')
    process.env['BLUESTEM_NOW'] = '2026-11-25T10:00:00Z'
    const server = await import(join(root, 'server/dist/main.js'))
    /** Serves a workspace of its own. @param {string} name @param {(url: string) => Promise<unknown>} filled @returns {Promise<string>} its address */
    const serve = async (name, filled) => {
      const url = /** @type {string} */ (env['BLUESTEM_TEST_URL']).replace(/\/[^/]+$/, `/${name}`)
      await clearDatabase({ url, adminUrl: /** @type {string} */ (adminUrl) })
      await server.prepare(url)
      await filled(url)
      const serving = await server.serve({
        url,
        port: 0,
        secret: 'only for tests',
        screens: join(root, 'web/dist'),
        demoDirectory: join(root, 'stand-ins/directory.csv'),
        signIns: 1000,
        writes: 1_000_000,
      })
      stops.push(serving.close)
      return `http://127.0.0.1:${serving.port}`
    }
    const administrator = {
      name: 'Ada Reed',
      email: 'ada.reed@marrowmere.example',
      password: 'marrowmere',
    }
    const demo = await serve('journeys', async (url) => await server.demo(url, 2500))
    const empty = await serve('nothing', async (url) => await server.begin(url, administrator))
    say(`journeys through Chromium at ${demo} and ${empty}`)
    await tests(['e2e'], { ...env, BLUESTEM_ORIGIN: demo, BLUESTEM_EMPTY_ORIGIN: empty })
  }
  await stop()
  process.stdout.write(`\n${counts.passed} passed, ${counts.failed} failed\n`)
  process.exit(counts.failed > 0 || counts.passed === 0 ? 1 : 0)
} catch (error) {
  await stop()
  fail(error)
}
