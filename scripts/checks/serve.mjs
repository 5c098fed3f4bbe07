// Serves one database for a test, in a process of its own that can be killed, and prints the port.
// It is started with the address of the database and the options of the server as JSON.
import { join } from 'node:path'
import { root } from '../packages.mjs'

const [url, options = '{}'] = process.argv.slice(2)
const { serve } = await import(join(root, 'server/dist/main.js'))
const serving = await serve({
  url,
  port: 0,
  secret: 'only for tests',
  screens: join(root, 'web/dist'),
  demoDirectory: join(root, 'stand-ins/directory.csv'),
  signIns: 1000,
  writes: 1_000_000,
  ...JSON.parse(options),
})
process.stdout.write(`port ${serving.port}\n`)
process.on('SIGTERM', () => void serving.close().then(() => process.exit(0)))
