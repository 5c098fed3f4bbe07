// A server of its own, to be killed: serves the database given until somebody ends it, and says on which port.
import { serve } from '../../dist/main.js'

const { port } = await serve({
  url: process.argv[2],
  port: 0,
  secret: 'only for tests',
  screens: 'nowhere',
  signIns: 1000,
  writes: 1_000_000,
  mapAtOnce: 100,
})
process.stdout.write(`port ${port}\n`)
