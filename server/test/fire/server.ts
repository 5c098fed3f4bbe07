import { type ChildProcess, spawn } from 'node:child_process'
import { join } from 'node:path'

/** A server in a process of its own, to be killed. */
export interface OwnServer {
  readonly process: ChildProcess
  readonly origin: string
}

/** Starts a server over a database. @throws Error where it ends before it answers */
export async function startServer(url: string): Promise<OwnServer> {
  const child = spawn(process.execPath, [join(import.meta.dirname, 'serving.mjs'), url], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const port = await new Promise<string>((done, failed) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const found = /port (\d+)/.exec(String(chunk))
      if (found) done(found[1]!)
    })
    child.once('exit', () => failed(new Error('the server ended before it answered')))
  })
  return { process: child, origin: `http://127.0.0.1:${port}` }
}
