import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openTestClusters } from '../checks/databases.mjs'
import { root } from '../packages.mjs'
import { say } from '../say.mjs'
import { permissions } from './permissions.mjs'
import { statements } from './statements.mjs'

/** What the tests of the server read. */
const parts = [
  'core',
  'server',
  'scripts',
  'stand-ins',
  'package.json',
  'tsconfig.base.json',
  'vitest.config.ts',
]

/** A copy of the tree in which a mistake can be made. @returns {string} its folder */
function copyTree() {
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-mutants-'))
  for (const part of parts) cpSync(join(root, part), join(folder, part), { recursive: true })
  symlinkSync(join(root, 'node_modules'), join(folder, 'node_modules'))
  return folder
}

/**
 * Makes one mistake and runs the tests nearest by.
 *
 * @param {string} folder a copy of the tree
 * @param {import('./permissions.mjs').ServerMutant} mutant
 * @param {Record<string, string>} env where the databases are
 * @returns {boolean} whether a test failed, as it must
 * @throws where the code has no such line any more: then the list is old
 */
function dies(folder, { file, from, to, tests = [] }, env) {
  const path = join(folder, 'server/src', file)
  const text = readFileSync(path, 'utf8')
  if (text.split(from).length !== 2) throw new Error(`${file} does not hold exactly once: ${from}`)
  writeFileSync(
    path,
    text.replace(from, () => to),
  )
  const files = tests.map((name) => `test/${name}.test.ts`)
  const args = [
    'run',
    ...files,
    '--project',
    'server',
    '--maxWorkers=1',
    '--bail=1',
    '--reporter=dot',
  ]
  const { status } = spawnSync(
    process.execPath,
    [join(folder, 'node_modules/vitest/vitest.mjs'), ...args],
    {
      cwd: folder,
      env: { ...process.env, ...env, NODE_ENV: 'test' },
      stdio: 'ignore',
    },
  )
  writeFileSync(path, text)
  return status !== 0
}

/** Every mutant of the server. */
export const serverMutants = [...permissions, ...statements]

/** Tries mutants of the server. @param {readonly import('./permissions.mjs').ServerMutant[]} mutants @returns {Promise<import('./permissions.mjs').ServerMutant[]>} those that lived */
export async function tryOnServer(mutants) {
  const { clusters, stop } = await openTestClusters(1)
  const folder = copyTree()
  const env = { BLUESTEM_TEST_URLS: clusters.map(({ url }) => url).join(' ') }
  const lived = []
  try {
    for (const mutant of mutants) {
      const died = dies(folder, mutant, env)
      if (!died) lived.push(mutant)
      say(`${died ? 'died ' : 'LIVED'}: ${mutant.rule} (${mutant.file})`)
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
    await stop()
  }
  return lived
}
