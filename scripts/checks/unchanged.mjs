import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../packages.mjs'

/** Where checks that passed leave their mark; git ignores it, and removing it only costs time. */
export const marks = join(root, '.cache', 'checks')

/** The files of the tree: those that git tracks, and new ones that it does not ignore. @returns {string[] | undefined} undefined where this is no checkout */
function filesOfTree() {
  const args = ['ls-files', '-z', '--cached', '--others', '--exclude-standard']
  const { status, stdout } = spawnSync('git', args, {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
  })
  if (status !== 0) return undefined
  const files = new Set(stdout.split('\0').filter(Boolean))
  return [...files].filter((file) => existsSync(join(root, file))).sort()
}

/** Whether a path begins with one of some folders, or is one of some files. @param {string} file @param {readonly string[]} places */
const liesIn = (file, places) =>
  places.some((place) => file === place || file.startsWith(`${place}/`))

/**
 * A key for what a check reads: it changes with any byte of those files, with the packages, and with the version of Node.
 *
 * @param {readonly string[]} places folders and files of the tree; none means all of it
 * @returns {string | undefined} undefined where git does not list the tree, so that nothing is skipped
 */
export function contentKey(places) {
  const files = filesOfTree()
  if (!files) return undefined
  const always = ['package-lock.json', 'package.json']
  const hash = createHash('sha256').update(process.version)
  for (const file of files) {
    if (places.length > 0 && !liesIn(file, [...places, ...always])) continue
    hash.update(`\0${file}\0`).update(readFileSync(join(root, file)))
  }
  return hash.digest('hex')
}

/**
 * Runs a check unless it passed before on the same content.
 *
 * @param {string} name
 * @param {readonly string[]} places what the check reads; none means the whole tree
 * @param {() => Promise<boolean>} run
 * @returns {Promise<'passed' | 'failed' | 'unchanged'>}
 */
export async function unlessUnchanged(name, places, run) {
  const key = contentKey(places)
  const mark = join(marks, name.replaceAll(/\W+/g, '-'))
  if (key && existsSync(mark) && readFileSync(mark, 'utf8') === key) return 'unchanged'
  if (!(await run())) return 'failed'
  if (key) {
    mkdirSync(marks, { recursive: true })
    writeFileSync(mark, key)
  }
  return 'passed'
}
