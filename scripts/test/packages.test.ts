import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freePort } from '../cluster.mjs'
import { root } from '../packages.mjs'
import { serveScreens } from '../watch.mjs'

const installed = (
  JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')) as {
    packages: Record<string, { dev?: boolean }>
  }
).packages

/** The packages that a program imports, at once or later. */
function importedBy(file: string): string[] {
  const text = readFileSync(join(root, file), 'utf8')
  const names = [
    ...text.matchAll(/(?:^import .*?from |^import |\bimport\()["']([^"'.][^"']*)["']/gm),
  ].map(([, name]) => name!)
  return [...new Set(names)]
    .filter((name) => !name.startsWith('node:'))
    .map((name) =>
      name
        .split('/')
        .slice(0, name.startsWith('@') ? 2 : 1)
        .join('/'),
    )
}

describe('an installation without what only developers need', () => {
  it.each([
    'server/dist/main.js',
    'scripts/start.mjs',
    'scripts/cluster.mjs',
    'scripts/workspace.mjs',
    'scripts/packages.mjs',
  ])('has every package that %s imports', (file) => {
    const missing = importedBy(file).filter(
      (name) => !installed[`node_modules/${name}`] || installed[`node_modules/${name}`]!.dev,
    )
    expect(missing).toEqual([])
  })

  it('is asked for enough: the server imports more than its own files', () => {
    expect(importedBy('server/dist/main.js')).toEqual(
      expect.arrayContaining(['express', 'sequelize', 'pg', 'ajv']),
    )
  })
})

describe('while developing', () => {
  it('what a page asks through the screens’ own server still says which address the page is at', async () => {
    const asked: (string | undefined)[] = []
    const server = createServer((request, response) => {
      asked.push(request.headers.host)
      response.end('{}')
    }).listen(0, '127.0.0.1')
    await new Promise((done) => server.once('listening', done))
    const port = await freePort()
    const screens = await serveScreens((server.address() as AddressInfo).port, port)
    try {
      await fetch(`http://127.0.0.1:${port}/api/v1/session`, { method: 'POST' })
      expect(asked).toEqual([`127.0.0.1:${port}`])
    } finally {
      await screens.close()
      server.close()
    }
  }, 60_000)
})
