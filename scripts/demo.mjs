// npm run demo -- --items N: makes the demo anew in any size.
import { buildWhenStale } from './build.mjs'
import { ensurePackages } from './packages.mjs'
import { fail, readFlags, say, wholeNumber } from './say.mjs'
import { clearDatabase, fill, openWorkspace } from './workspace.mjs'

try {
  const flags = readFlags(process.argv.slice(2), { items: 'value', data: 'value' })
  const items = wholeNumber(flags['items'], 'items', 2500, [1, 1_000_000])
  ensurePackages()
  await buildWhenStale()
  const workspace = await openWorkspace(flags['data'])
  say('making the database anew')
  await clearDatabase(workspace)
  await fill(workspace, { items })
  await workspace.stop()
  say('done; npm start serves it')
} catch (error) {
  fail(error)
}
