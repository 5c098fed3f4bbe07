// npm run bench: what things cost, as ratios measured side by side in one run.
import { spawn } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildWhenStale } from './build.mjs'
import { openCluster } from './cluster.mjs'
import { ensurePackages, root } from './packages.mjs'
import { fail, readFlags, say, wholeNumber } from './say.mjs'
import { clearDatabase } from './workspace.mjs'

try {
  const flags = readFlags(process.argv.slice(2), { items: 'value' })
  const items = wholeNumber(flags['items'], 'items', 100_000, [500, 1_000_000])
  ensurePackages()
  await buildWhenStale()
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-bench-'))
  chmodSync(folder, 0o755)
  const cluster = await openCluster(folder)
  try {
    const server = await import(join(root, 'server/dist/main.js'))
    await clearDatabase(cluster)
    await server.prepare(cluster.url)
    say(`loading ${items.toLocaleString('en')} items`)
    const loaded = await server.demo(cluster.url, items)
    say(`loaded ${loaded.states.toLocaleString('en')} states`)
    const serving = await server.serve({
      url: cluster.url,
      port: 0,
      secret: 'only for the bench',
      screens: join(root, 'web/dist'),
      writes: 1_000_000,
    })
    const done = await new Promise((resolve) => {
      // The bench runs apart, so that what it measures over HTTP is not its own work.
      spawn(process.execPath, ['--import', 'tsx', join(root, 'bench/main.ts')], {
        cwd: root,
        stdio: 'inherit',
        env: {
          ...process.env,
          BLUESTEM_BENCH_URL: cluster.url,
          BLUESTEM_ORIGIN: `http://127.0.0.1:${serving.port}`,
        },
      }).on('exit', resolve)
    })
    await serving.close()
    if (done !== 0) process.exitCode = 1
  } finally {
    await cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
} catch (error) {
  fail(error)
}
