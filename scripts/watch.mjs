import { join } from 'node:path'
import { context } from 'esbuild'
import { createServer } from 'vite'
import { serverOptions } from './build.mjs'
import { root } from './packages.mjs'
import { say } from './say.mjs'

/**
 * Serves the screens from their sources. The server sees the address that the page is at, for it takes changes from its own pages only.
 * @param {number} server the port that answers questions @param {number} port where the screens are
 */
export async function serveScreens(server, port) {
  const proxy = { '/api': { target: `http://127.0.0.1:${server}`, changeOrigin: false } }
  const screens = await createServer({
    root: join(root, 'web'),
    configFile: join(root, 'web/vite.config.ts'),
    server: { host: '127.0.0.1', port, strictPort: true, proxy },
    logLevel: 'warn',
  })
  await screens.listen()
  return screens
}

/**
 * Development: screens that change as they are edited, and a server built anew after each change of its sources.
 * @param {number} port where the server answers
 * @param {(bundle: string) => Promise<void>} renewed takes the address of the new bundle
 * @returns {Promise<() => Promise<void>>} ends the watching
 */
export async function watch(port, renewed) {
  const ours = process.listeners('SIGTERM')
  const screens = await serveScreens(port, port + 1)
  // The development server would end the program by itself, before the database is stopped.
  for (const theirs of process.listeners('SIGTERM').filter((listener) => !ours.includes(listener)))
    process.off('SIGTERM', theirs)
  let builds = 0
  const options = await serverOptions()
  const builder = await context({
    ...options,
    plugins: [
      {
        name: 'renew',
        setup: (build) =>
          build.onEnd(async ({ errors }) => {
            if (errors.length === 0 && builds++ > 0)
              await renewed(`${join(root, 'server/dist/main.js')}?build=${builds}`)
          }),
      },
    ],
  })
  await builder.watch()
  say(`screens that follow their sources: http://127.0.0.1:${port + 1}`)
  return async () => {
    await builder.dispose()
    await screens.close()
  }
}
