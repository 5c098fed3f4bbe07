// npm test: types, lint, unit, server and browser tests over throwaway clusters; the last line counts them.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { buildWhenStale } from './build.mjs'
import { inLanes } from './checks/lanes.mjs'
import { runProgram } from './checks/program.mjs'
import { unlessUnchanged } from './checks/unchanged.mjs'
import { ensureChromium, ensurePackages, ensurePostgres, root } from './packages.mjs'
import { CommandError, fail, say } from './say.mjs'

/** A project of the test runner for each part that has tests. */
const projects = { unit: ['core', 'web'], server: ['server', 'scripts'], browser: ['e2e'] }
const parts = ['types', 'lint', ...Object.keys(projects)]
/** Fuzzing, races, kills and a million items at full length: hours, and only when it is asked for. */
const long = 'long'
const longTests = ['fire', 'writers', 'largeFile', 'fuzz', 'races', 'kills']

const flags = process.argv.slice(2)
const names = [...parts, long]
const wanted = flags.filter((word) => names.includes(word))
/** Anything else names test files: only those of the parts asked for. */
const files = flags.filter((word) => !names.includes(word))
const runs = (/** @type {string} */ part) =>
  wanted.length > 0 ? wanted.includes(part) : parts.includes(part)

const counts = { passed: 0, failed: 0 }
/** @type {Map<string, number>} seconds by part */
const seconds = new Map()
const stops = /** @type {(() => Promise<void> | void)[]} */ ([])

async function stop() {
  for (const end of stops.reverse()) await Promise.resolve(end()).catch(() => undefined)
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => void stop().then(() => process.exit(130)))

const onStart = (/** @type {() => void} */ end) => void stops.push(end)
const addSeconds = (/** @type {string} */ part, /** @type {number} */ more) =>
  seconds.set(part, (seconds.get(part) ?? 0) + more)

/** A check that is one program: it is skipped where it passed on the same content. @param {string} part @param {string} name @param {string[]} places @param {string} program @param {string[]} args */
const check = (part, name, places, program, args) => async () => {
  const began = Date.now()
  const result = await unlessUnchanged(name, places, () => runProgram(program, args, { onStart }))
  counts[result === 'failed' ? 'failed' : 'passed'] += 1
  addSeconds(part, (Date.now() - began) / 1000)
  say(
    `${result === 'failed' ? 'FAILED' : 'passed'}: ${name}${result === 'unchanged' ? ' (unchanged since it passed)' : ''}`,
  )
}

const base = 'tsconfig.base.json'
/** The core alone shows that it needs neither Node nor a page; its tests and everything that runs on Node share one reading. */
const types = [
  check('types', 'types of the screens', ['web', 'core', base], 'vue-tsc/bin/vue-tsc.js', [
    '-p',
    'web',
  ]),
  check('types', 'types of all that runs on Node', [], 'typescript/bin/tsc', ['-p', '.']),
  check('types', 'types of the core alone', ['core', base], 'typescript/bin/tsc', ['-p', 'core']),
]
const lint = check('lint', 'lint', [], 'eslint/bin/eslint.js', ['.', '--max-warnings', '0'])
const format = check('lint', 'format', [], 'prettier/bin/prettier.cjs', [
  ...['--check', '.', '--log-level', 'warn', '--cache', '--cache-strategy', 'content'],
  ...['--cache-location', '.cache/prettier'],
])

/** The part to which a test file belongs. @param {string} file */
function partOf(file) {
  const [place = ''] = relative(root, file).split('/')
  return Object.entries(projects).find(([, names]) => names.includes(place))?.[0] ?? place
}

/** Counts the tests of a report, and the time of each part. @param {string} report @param {boolean} well */
function readReport(report, well) {
  const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(report, 'utf8'))
  counts.passed += numPassedTests
  counts.failed += numFailedTests
  // A file that could not even be read has no tests to fail; it fails all the same.
  if (!well && numFailedTests === 0) counts.failed += 1
  for (const { name, startTime, endTime } of testResults)
    addSeconds(partOf(name), (endTime - startTime) / 1000)
}

/** Runs projects of the test runner. @param {string[]} names @param {number} workers @param {Record<string, string>} env @param {string[]} only names of test files; none means all */
async function tests(names, workers, env, only) {
  say(`tests: ${names.join(', ')}`)
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-report-'))
  const report = join(folder, 'report.json')
  const args = [
    ...['run', ...only, ...names.flatMap((name) => ['--project', name])],
    ...[`--maxWorkers=${workers}`, '--passWithNoTests'],
    ...['--reporter=default', '--reporter=json', `--outputFile=${report}`],
  ]
  const well = await runProgram('vitest/vitest.mjs', args, { env, onStart })
  try {
    readReport(report, well)
  } catch {
    counts.failed += 1
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Opens a cluster for each worker, and tells the tests where they are. @param {boolean} withJourneys */
async function openDatabases(withJourneys) {
  const { openTestClusters, makeJourneyTemplates, workers } = await import('./checks/databases.mjs')
  const { clusters, stop: stopClusters } = await openTestClusters()
  stops.push(stopClusters)
  await buildWhenStale()
  if (withJourneys) await Promise.all(clusters.map(makeJourneyTemplates))
  return { workers, env: { BLUESTEM_TEST_URLS: clusters.map(({ url }) => url).join(' ') } }
}

try {
  if (files.length > 0 && wanted.length === 0)
    throw new CommandError(`Name a part first: one of ${names.join(', ')}.`)
  ensurePackages()
  const needsDatabase = ['server', 'browser', long].some(runs)
  if (needsDatabase) ensurePostgres()
  if (runs('browser')) ensureChromium()
  await inLanes(2, [
    ...(runs('lint') ? [lint] : []),
    ...(runs('unit') ? [async () => await tests(projects.unit, 1, {}, files)] : []),
    ...(runs('types') ? types : []),
    ...(runs('lint') ? [format] : []),
  ])
  if (needsDatabase) {
    const { workers, env } = await openDatabases(runs('browser'))
    const withDatabase = [
      ...(runs('browser') ? projects.browser : []),
      ...(runs('server') ? projects.server : []),
    ]
    if (withDatabase.length > 0) await tests(withDatabase, workers, env, files)
    if (runs(long))
      await tests(
        projects.server,
        1,
        { ...env, BLUESTEM_LONG: '1' },
        longTests.map((name) => `test/${name}.test.ts`),
      )
  }
  await stop()
  for (const [part, took] of seconds) say(`${part}: ${took.toFixed(0)} s of one processor or more`)
  process.stdout.write(`\n${counts.passed} passed, ${counts.failed} failed\n`)
  process.exit(counts.failed > 0 || counts.passed === 0 ? 1 : 0)
} catch (error) {
  await stop()
  fail(error)
}
