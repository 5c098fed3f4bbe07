import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { CommandError, say } from './say.mjs'

export const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '')
const isRoot = process.getuid?.() === 0

/**
 * Whether everything the lock file names is installed, in its version. npm writes its own list of what it installed last of all, so
 * an install that was cut short has none. Packages for other systems are left out, as npm leaves them out.
 * @param {boolean} development whether the tools for building and testing are needed too
 */
function packagesThere(development) {
  const list = join(root, 'node_modules', '.package-lock.json')
  if (!existsSync(list)) return false
  /** @type {(file: string) => { packages: Record<string, { version?: string, dev?: boolean, optional?: boolean, peer?: boolean, link?: boolean }> }} */
  const read = (file) => JSON.parse(readFileSync(file, 'utf8'))
  const [wanted, there] = [read(join(root, 'package-lock.json')), read(list)]
  return Object.entries(wanted.packages).every(
    ([path, entry]) =>
      !path.includes('node_modules/') ||
      entry.link ||
      entry.optional ||
      entry.peer ||
      (entry.dev && !development) ||
      there.packages[path]?.version === entry.version,
  )
}

/**
 * Installs the npm packages when they are missing or the lock file has changed since.
 * @param {{ development?: boolean }} [options] without the tools for building and testing, an install for production is enough
 */
export function ensurePackages({ development = true } = {}) {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19))
    throw new CommandError(`Bluestem needs Node 20.19 or later; this is ${process.versions.node}.`)
  if (packagesThere(development)) return
  say('installing packages (npm ci)')
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (done.status !== 0)
    throw new CommandError(
      'The packages could not be installed: npm ci failed, see its message above.',
    )
}

/** The folder of PostgreSQL's server programs, installed from Debian when this is root on Debian and they are missing. */
export function ensurePostgres() {
  const found = findPostgres()
  if (found) return found
  if (!isRoot || !existsSync('/etc/debian_version'))
    throw new CommandError(
      'PostgreSQL 15 or later is missing; install it (on Debian: sudo apt-get install postgresql-15), or set BLUESTEM_DATABASE_URL to one of your own.',
    )
  say('installing PostgreSQL from Debian')
  // Without this Debian would make and start a cluster of its own.
  mkdirSync('/etc/postgresql-common', { recursive: true })
  const settings = '/etc/postgresql-common/createcluster.conf'
  if (
    !existsSync(settings) ||
    !/^create_main_cluster\s*=\s*false/m.test(readFileSync(settings, 'utf8'))
  )
    writeFileSync(settings, 'create_main_cluster = false\n', { flag: 'a' })
  installDebian(['postgresql-15'])
  const now = findPostgres()
  if (!now)
    throw new CommandError(
      'PostgreSQL was installed, yet its programs are not where Debian puts them (/usr/lib/postgresql).',
    )
  return now
}

function findPostgres() {
  const versions = existsSync('/usr/lib/postgresql')
    ? readdirSync('/usr/lib/postgresql')
        .filter((name) => /^\d+$/.test(name))
        .map(Number)
        .filter((version) => version >= 15)
        .sort((a, b) => a - b)
    : []
  const folders = [
    process.env['BLUESTEM_POSTGRES'],
    ...versions.map((version) => `/usr/lib/postgresql/${version}/bin`),
    ...(process.env['PATH'] ?? '').split(':'),
  ]
  return folders.find(
    (folder) =>
      folder && existsSync(join(folder, 'initdb')) && existsSync(join(folder, 'postgres')),
  )
}

/** The browser and its driver, for the browser tests and pictures. @returns {{ chromium: string, chromedriver: string }} */
export function ensureChromium() {
  const which = (/** @type {string} */ name) =>
    (process.env['PATH'] ?? '')
      .split(':')
      .concat('/usr/bin')
      .map((folder) => join(folder, name))
      .find((path) => existsSync(path))
  if (!which('chromium') || !which('chromedriver')) {
    if (!isRoot || !existsSync('/etc/debian_version'))
      throw new CommandError(
        'Chromium and ChromeDriver are missing; install them (on Debian: sudo apt-get install chromium chromium-driver).',
      )
    say('installing Chromium and ChromeDriver from Debian')
    installDebian(['chromium', 'chromium-driver'])
  }
  const [chromium, chromedriver] = [which('chromium'), which('chromedriver')]
  if (!chromium || !chromedriver)
    throw new CommandError('Chromium was installed, yet it is not on the path.')
  return { chromium, chromedriver }
}

/** @param {string[]} names */
function installDebian(names) {
  const options = {
    stdio: /** @type {['ignore', 'ignore', 'pipe']} */ (['ignore', 'ignore', 'pipe']),
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  }
  try {
    execFileSync('apt-get', ['update', '-q'], options)
    execFileSync('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...names], options)
  } catch (error) {
    const told =
      error instanceof Error && 'stderr' in error
        ? String(error.stderr).trim().split('\n').at(-1)
        : ''
    throw new CommandError(
      `Debian’s package manager could not install ${names.join(' and ')}: ${told}`,
    )
  }
}

/** The newest change below the given places, in milliseconds. @param {string[]} places */
export function newest(places) {
  let latest = 0
  for (const place of places) {
    const path = join(root, place)
    if (!existsSync(path)) continue
    const stat = statSync(path)
    if (!stat.isDirectory()) latest = Math.max(latest, stat.mtimeMs)
    else
      for (const name of readdirSync(path))
        if (name !== 'node_modules' && name !== 'dist')
          latest = Math.max(latest, newest([join(place, name)]))
  }
  return latest
}
