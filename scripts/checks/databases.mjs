import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openCluster } from '../cluster.mjs'
import { root } from '../packages.mjs'
import { say } from '../say.mjs'
import { clearDatabase } from '../workspace.mjs'

/** The moment at which journeys and pictures begin. */
export const journeysBegin = '2026-11-25T10:00:00Z'

/** How many test files with a database run at the same time. */
export const workers = 2

/**
 * Starts a database server for each worker. One for both would make each wait for the oldest transaction of the other,
 * because the live stream reads only what lies below that.
 *
 * @param {number} [count]
 * @returns {Promise<{ clusters: { url: string, adminUrl: string }[], stop: () => Promise<void> }>}
 */
export async function openTestClusters(count = workers) {
  const opened = await Promise.all(
    Array.from({ length: count }, async () => {
      const folder = mkdtempSync(join(tmpdir(), 'bluestem-test-'))
      chmodSync(folder, 0o755)
      return { folder, cluster: await openCluster(folder, { tests: true }) }
    }),
  )
  return {
    clusters: opened.map(({ cluster }) => cluster),
    stop: async () => {
      for (const { folder, cluster } of opened) {
        await cluster.stop()
        rmSync(folder, { recursive: true, force: true })
      }
    },
  }
}

const administrator = {
  name: 'Ada Reed',
  email: 'ada.reed@marrowmere.example',
  password: 'marrowmere',
}

/** Makes the two databases that journeys copy: the demo, and a workspace in which nothing is set up. @param {{ url: string, adminUrl: string }} cluster */
export async function makeJourneyTemplates({ url, adminUrl }) {
  process.env['BLUESTEM_NOW'] = journeysBegin
  const server = await import(join(root, 'server/dist/main.js'))
  const place = (/** @type {string} */ name) => ({
    url: url.replace(/\/[^/]+$/, `/${name}`),
    adminUrl,
  })
  const [demo, nothing] = [place('journeys_demo'), place('journeys_nothing')]
  for (const template of [demo, nothing]) {
    await clearDatabase(template)
    await server.prepare(template.url)
  }
  await server.demo(demo.url, 2500)
  await server.begin(nothing.url, administrator)
  say('the databases of the journeys are made')
}
