import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

const root = new URL('../..', import.meta.url).pathname

/** What the command asks, against a server that answers as Bluestem does; the real one is held to the same answers by its own tests. */
describe('definitions as files, from the command line', () => {
  const asked: { path: string; body: unknown }[] = []
  let folder: string
  let url: string
  const changes = [{ words: 'renames status “Open” to “Known”' }]
  const body = async (request: IncomingMessage): Promise<string> => {
    let text = ''
    for await (const part of request) text += String(part)
    return text
  }
  const server = createServer((request, response) => void answer(request, response))
  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const text = await body(request)
    const path = `${request.method} ${request.url!.replace('/api/v1', '')}`
    asked.push({ path, body: text ? (JSON.parse(text) as unknown) : undefined })
    const same = text.includes('"same"')
    const answers: Record<string, [number, object]> = {
      'POST /session': [200, {}],
      'GET /definitions/file': [200, { format: 1 }],
      'GET /definitions/rulebooks/rb_yard': [200, { rulebook: 'rb_yard' }],
      'POST /definitions/differences': text.includes('"bad"')
        ? [
            400,
            {
              detail: 'This does not fit.',
              errors: [
                {
                  pointer: '/types/ty_a/tier',
                  message: 'It is no whole number.',
                  expected: 'a whole number',
                },
              ],
            },
          ]
        : [200, { changes: same ? [] : changes }],
      'POST /definitions/import': [201, { draft: { title: 'From a file' }, changes: 1 }],
    }
    const [status, answer] = answers[path] ?? [404, { detail: `nothing at ${path}` }]
    response
      .writeHead(status, {
        'content-type': 'application/json',
        'set-cookie': 'session=1; HttpOnly',
      })
      .end(JSON.stringify(answer))
  }

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'bluestem-definitions-'))
    await new Promise<void>((done) => void server.listen(0, '127.0.0.1', done))
    url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  })
  afterAll(() => {
    server.close()
    rmSync(folder, { recursive: true, force: true })
  })

  async function command(
    args: readonly string[],
    env: Record<string, string> = { BLUESTEM_EMAIL: 'a@b.example', BLUESTEM_PASSWORD: 'x' },
  ): Promise<{ status: number | null; out: string; err: string }> {
    const child = spawn(process.execPath, [join(root, 'scripts/definitions.mjs'), ...args], {
      env: { PATH: process.env['PATH'] ?? '', ...env },
    })
    let [out, err] = ['', '']
    child.stdout.on('data', (part) => {
      out += String(part)
    })
    child.stderr.on('data', (part) => {
      err += String(part)
    })
    return await new Promise((done) =>
      child.on('close', (status) => done({ status, out, err: err.trim() })),
    )
  }
  const file = (content: unknown): string => {
    const path = join(folder, `${Math.random()}.json`)
    writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content))
    return path
  }

  it('pull writes them, whole or one rulebook', async () => {
    const [all, text] = [join(folder, 'all.json'), join(folder, 'one.json')]
    expect((await command(['pull', all, '--url', url])).status).toBe(0)
    expect((await command(['pull', text, '--url', url, '--rulebook', 'rb_yard'])).status).toBe(0)
    expect([JSON.parse(readFileSync(all, 'utf8')), JSON.parse(readFileSync(text, 'utf8'))]).toEqual(
      [{ format: 1 }, { rulebook: 'rb_yard' }],
    )
  })

  it('diff tells the differences and keeps nothing', async () => {
    asked.length = 0
    const { status, out } = await command(['diff', file({ format: 1 }), '--url', url])
    expect([status, out]).toEqual([0, 'renames status “Open” to “Known”\n'])
    expect(asked.map((entry) => entry.path)).toEqual([
      'POST /session',
      'POST /definitions/differences',
    ])
    expect((await command(['diff', file({ a: 'same' }), '--url', url])).out).toBe(
      'Nothing is different.\n',
    )
  })

  it('push opens a draft with what was told before', async () => {
    asked.length = 0
    const given = file({ format: 1 })
    const { out } = await command(['push', given, '--url', url])
    expect(out).toBe(
      `renames status “Open” to “Known”\nThe draft “From a file” holds this change; look at what it touches and publish them at ${url}/definitions.\n`,
    )
    expect(asked.at(-1)).toEqual({ path: 'POST /definitions/import', body: { format: 1 } })
  })

  it.each<[string, () => readonly string[], Record<string, string> | undefined, string]>([
    ['no act', () => ['fetch', 'a.json'], undefined, 'Say what to do and with which file'],
    [
      'nobody',
      () => ['diff', file({})],
      {},
      'Say who you are: set BLUESTEM_EMAIL and BLUESTEM_PASSWORD.',
    ],
    [
      'a file that is not there',
      () => ['diff', join(folder, 'none.json')],
      undefined,
      'There is no file',
    ],
    ['a file that is torn', () => ['push', file('{')], undefined, 'is not JSON'],
    [
      'a document that does not fit',
      () => ['push', file({ a: 'bad' }), '--url', url],
      undefined,
      '/types/ty_a/tier: It is no whole number. Needed: a whole number.',
    ],
    [
      'a server that is not there',
      () => ['pull', join(folder, 'x.json'), '--url', 'http://127.0.0.1:9'],
      undefined,
      'Nothing answers at http://127.0.0.1:9',
    ],
  ])('%s is one clear sentence, and the command ends with 2', async (_, args, env, says) => {
    const { status, err } = await command(args(), env)
    expect([status, err]).toEqual([2, expect.stringContaining(says)])
  })
})
