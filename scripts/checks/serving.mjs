import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { root } from '../packages.mjs'

/**
 * Starts the built server over a database, in a process of its own.
 *
 * @param {string} url the address of the database
 * @param {{ options?: Record<string, unknown>, env?: Record<string, string> }} [settings] options of the server beside those of tests
 * @returns {Promise<{ process: import('node:child_process').ChildProcess, origin: string }>}
 * @throws when the process ends before it answers
 */
export async function startServer(url, { options = {}, env = {} } = {}) {
  const script = join(root, 'scripts/checks/serve.mjs')
  const child = spawn(process.execPath, [script, url, JSON.stringify(options)], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...env },
  })
  const port = await new Promise((found, failed) => {
    child.stdout.on('data', (chunk) => {
      const [, digits] = /port (\d+)/.exec(String(chunk)) ?? []
      if (digits) found(digits)
    })
    child.once('exit', () => failed(new Error('The server ended before it answered.')))
  })
  return { process: child, origin: `http://127.0.0.1:${port}` }
}
