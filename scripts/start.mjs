// npm start: everything from a bare machine to a page that answers.
import { join } from 'node:path'
import { buildWhenStale, isStale } from './build.mjs'
import { ensurePackages, root } from './packages.mjs'
import { fail, readFlags, say, wholeNumber } from './say.mjs'
import {
  checkPort,
  clearDatabase,
  fill,
  openWorkspace,
  secretOf,
  whileItComesBack,
} from './workspace.mjs'

const stops = /** @type {(() => Promise<void>)[]} */ ([])
let stopping = false

/** Stops what was started, last first. @param {number} code */
async function stop(code) {
  if (stopping) return
  stopping = true
  for (const stop of stops.reverse()) await stop().catch(() => undefined)
  process.exit(code)
}

// npm passes a signal to a shell that does not pass it on: when that parent is gone, we are meant too.
const parent = process.ppid
if (process.env['npm_lifecycle_event'])
  setInterval(() => {
    if (process.ppid !== parent) void stop(0)
  }, 500).unref()

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    say('stopping')
    void stop(0)
  })

try {
  const flags = readFlags(process.argv.slice(2), {
    port: 'value',
    data: 'value',
    empty: 'flag',
    fresh: 'flag',
    dev: 'flag',
    logs: 'flag',
  })
  const port = wholeNumber(flags['port'], 'port', 5180)
  await checkPort(port)
  ensurePackages({ development: isStale() || flags['dev'] === true })
  await buildWhenStale()
  const workspace = await openWorkspace(flags['data'])
  stops.push(workspace.stop)
  if (flags['fresh']) await clearDatabase(workspace)
  await whileItComesBack(async () => await fill(workspace, { empty: flags['empty'] === true }))
  const { serve } = await import(join(root, 'server/dist/main.js'))
  const [address, proxies] = [process.env['BLUESTEM_ADDRESS'], process.env['BLUESTEM_PROXIES']]
  const directory = process.env['BLUESTEM_DIRECTORY']
  const options = {
    url: workspace.url,
    port,
    secret: secretOf(workspace.folder),
    screens: join(root, 'web/dist'),
    demoDirectory: join(root, 'stand-ins/directory.csv'),
    logs: flags['logs'] === true,
    ...(address ? { address } : {}),
    ...(directory ? { directory } : {}),
    ...(proxies ? { proxies: proxies.split(',').map((entry) => entry.trim()) } : {}),
  }
  let serving = await whileItComesBack(async () => await serve(options))
  stops.push(async () => await serving.close())
  if (flags['dev']) {
    const { watch } = await import('./watch.mjs')
    stops.push(
      await watch(port, async (bundle) => {
        await serving.close()
        serving = await (await import(bundle)).serve(options)
        say('the server was built anew')
      }),
    )
  }
  say(`Bluestem answers at http://127.0.0.1:${serving.port}`)
  if (!flags['empty'])
    process.stdout.write(
      '\n  Demo accounts, password “marrowmere” for each:\n    mara.thiel@marrowmere.example  administrator\n    tom.okafor@marrowmere.example  member\n    ida.lund@marrowmere.example    viewer\n\n  Ctrl-C stops everything.\n',
    )
} catch (error) {
  for (const stop of stops.reverse()) await stop().catch(() => undefined)
  fail(error)
}
