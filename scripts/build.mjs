import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { newest, root } from './packages.mjs'
import { say } from './say.mjs'

const stampOf = (/** @type {string} */ part) => join(root, part, 'dist', '.built')
const stale = (/** @type {string} */ part, /** @type {string[]} */ sources) =>
  !existsSync(stampOf(part)) || statSync(stampOf(part)).mtimeMs < newest(sources)

const serverStale = () =>
  stale('server', ['core/src', 'server/src', 'server/package.json', 'scripts/build.mjs'])
const webStale = () => stale('web', ['core/src', 'web', 'scripts/build.mjs'])

/** Whether anything has changed since it was built. */
export const isStale = () => serverStale() || webStale()

/** Builds what is stale: the server's bundle and the screens. */
export async function buildWhenStale() {
  await buildServerWhenStale()
  if (webStale()) await buildWeb()
}

export async function buildServerWhenStale() {
  if (serverStale()) await buildServer()
}

async function buildServer() {
  say('building the server')
  const { build } = await import('esbuild')
  await build(await serverOptions())
  writeFileSync(stampOf('server'), '')
}

/** How the server is bundled. @returns {Promise<import('esbuild').BuildOptions>} */
export async function serverOptions() {
  const { default: server } = await import('../server/package.json', { with: { type: 'json' } })
  return {
    entryPoints: [join(root, 'server/src/main.ts')],
    outfile: join(root, 'server/dist/main.js'),
    absWorkingDir: root,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    // Only what the server itself declares stays outside: what core brings is bundled.
    external: Object.keys(server.dependencies)
      .filter((name) => !name.startsWith('@bluestem/'))
      .concat('ajv', 'pg-native'),
    banner: {
      js: "import { createRequire as __cr } from 'node:module'; const require = __cr(import.meta.url);",
    },
  }
}

async function buildWeb() {
  say('building the screens')
  const { build } = await import('vite')
  await build({
    root: join(root, 'web'),
    configFile: join(root, 'web/vite.config.ts'),
    logLevel: 'error',
  })
  mkdirSync(join(root, 'web/dist'), { recursive: true })
  writeFileSync(stampOf('web'), '')
}

if (process.argv[1] === new URL(import.meta.url).pathname) await buildWhenStale()
