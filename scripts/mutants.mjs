// npm run test:mutants -- [core|server|permissions] [--count N] [--seed N]: mistakes are made on purpose, and a test must fail for each.
import { runProgram } from './checks/program.mjs'
import { permissions } from './mutants/permissions.mjs'
import { sample } from './mutants/sample.mjs'
import { serverMutants, tryOnServer } from './mutants/server.mjs'
import { ensurePackages, ensurePostgres } from './packages.mjs'
import { CommandError, fail, readFlags, say, wholeNumber } from './say.mjs'

/** The least share of mutants that must die, in per cent. */
const leastShare = 85

/** @param {number} count lines of which every mutant is tried @param {number} seed @returns {Promise<boolean>} */
async function tryCore(count, seed) {
  say(`mutants of the core: ${count} lines, seed ${seed}`)
  const env = { BLUESTEM_MUTANT_LINES: String(count), BLUESTEM_MUTANT_SEED: String(seed) }
  const config = 'scripts/mutants/stryker.config.mjs'
  return await runProgram('@stryker-mutator/core/bin/stryker.js', ['run', config], { env })
}

/** @param {readonly import('./mutants/permissions.mjs').ServerMutant[]} mutants @param {number} least the least share that must die, in per cent @returns {Promise<boolean>} */
async function tryServer(mutants, least) {
  const lived = await tryOnServer(mutants)
  const share = (100 * (mutants.length - lived.length)) / mutants.length
  say(`${mutants.length - lived.length} of ${mutants.length} died: ${share.toFixed(1)} %`)
  return share >= least
}

try {
  const [part = 'all'] = process.argv.slice(2).filter((word) => /^[a-z]+$/.test(word))
  const parts = ['all', 'core', 'server', 'permissions']
  if (!parts.includes(part))
    throw new CommandError(`There is no part “${part}”; there are ${parts.join(', ')}.`)
  const flags = readFlags(
    process.argv.slice(2).filter((word) => word !== part),
    { count: 'value', seed: 'value' },
  )
  const seed = wholeNumber(flags['seed'], 'seed', 20_261_202, [1, 2_147_483_646])
  const count = wholeNumber(flags['count'], 'count', part === 'server' ? 60 : 150, [1, 10_000])
  ensurePackages()
  ensurePostgres()
  const results = []
  if (part === 'all' || part === 'core') results.push(await tryCore(count, seed))
  if (part === 'all' || part === 'server')
    results.push(
      await tryServer(sample(serverMutants, part === 'all' ? 60 : count, seed), leastShare),
    )
  if (part === 'permissions') results.push(await tryServer(permissions, 100))
  process.exit(results.every(Boolean) ? 0 : 1)
} catch (error) {
  fail(error)
}
