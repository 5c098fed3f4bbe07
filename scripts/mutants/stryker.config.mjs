// Mutants of the core: some lines are drawn by chance, and every mistake that Stryker can make in them is tried.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../packages.mjs'
import { sample } from './sample.mjs'

const lines = Number(process.env['BLUESTEM_MUTANT_LINES'] ?? 150)
const seed = Number(process.env['BLUESTEM_MUTANT_SEED'] ?? 20261202)

/** Files that say how things are called and described: a mistake in them is a matter of taste or of types. */
const wordsOnly =
  /(^|\/)(schema|index|contract|answers|widgetKinds)\.ts$|\.test\.ts$|\.generated\.ts$|^starters\//

/** Lines that hold a rule: no comment, no import, no type, no bracket alone. */
const isRule = (/** @type {string} */ line) =>
  /[=?<>+\-*/!&|(]/.test(line) &&
  !/^\s*(\/?\*|\/\/|import |export (type|interface)|readonly |type |interface )/.test(line)

const files = readdirSync(join(root, 'core/src'), { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !wordsOnly.test(file))
  .sort()
const rules = files.flatMap((file) =>
  readFileSync(join(root, 'core/src', file), 'utf8')
    .split('\n')
    .flatMap((line, index) => (isRule(line) ? [`core/src/${file}:${index + 1}-${index + 1}`] : [])),
)

/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  mutate: sample(rules, lines, seed),
  testRunner: 'vitest',
  vitest: { configFile: 'scripts/mutants/vitest.config.ts' },
  plugins: ['@stryker-mutator/vitest-runner'],
  // The words of errors and sentences are judged by reading, not by a test for each.
  mutator: { excludedMutations: ['StringLiteral'] },
  ignorePatterns: ['/.bluestem', '/.cache', '/web', '/server', '/e2e', '/bench', '/docs'],
  tempDirName: '.cache/stryker',
  concurrency: 2,
  timeoutMS: 30_000,
  reporters: ['clear-text', 'progress-append-only'],
  clearTextReporter: {
    reportTests: false,
    reportScoreTable: false,
    allowColor: false,
    allowEmojis: false,
  },
  thresholds: { high: 95, low: 85, break: 85 },
  allowConsoleColors: false,
}
