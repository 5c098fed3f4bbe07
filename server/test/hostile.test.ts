import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

describe('hostile text', () => {
  const hostile = [
    `'; DROP TABLE item; --`,
    `" OR 1=1 --`,
    '$1',
    '\\',
    `\\'`,
    '%_\\%',
    `x' || (SELECT password FROM person LIMIT 1) || '`,
    '‮evil',
    '<img src=x onerror=alert(1)>',
    '{"op":"=","args":[]}',
    '../../etc/passwd',
    '\u0001' + '0' + '\u0001',
    'A'.repeat(5000),
    '🚢'.repeat(50),
    `E'\\x27'`,
    'NULL',
    '0x1',
    '-- ',
    '/*',
  ]

  it('is kept as it is, or refused in words: nothing is lost and nothing runs', async () => {
    const [before] = await rows<{ count: number }>(
      served.database,
      'SELECT count(*) AS count FROM item',
    )
    let made = 0
    for (const text of hostile) {
      const title = text.slice(0, 300).trim()
      const item = await tom('POST', '/items', {
        project: 'YARD',
        type: 'Defect',
        title,
        description: text,
        fields: { old_yard_number: text.slice(0, 500), inspector_note: text },
      })
      expect([201, 400], text).toContain(item.status)
      if (item.status === 201) {
        made += 1
        expect(item.body.title).toBe(title.normalize('NFC'))
        expect((await tom('POST', `/items/${item.body.ref}/comments`, { body: text })).status).toBe(
          201,
        )
        expect(
          (
            await tom('POST', '/items/search', {
              filter: {
                op: '=',
                args: [{ property: 'old_yard_number' }, item.body.fields.old_yard_number],
              },
            })
          ).body.total,
          text,
        ).toBeGreaterThan(0)
      }
    }
    expect(made).toBeGreaterThan(15)
    const [after] = await rows<{ count: number }>(
      served.database,
      'SELECT count(*) AS count FROM item',
    )
    expect(after!.count).toBe(before!.count + made)
  })

  it('that nothing can keep is refused before it gets anywhere, with its place', async () => {
    for (const [text, message] of [
      ['a\u0000b', /U\+0000/],
      ['half \ud800', /lone surrogate/],
    ] as const) {
      const calls: [string, string, unknown, string][] = [
        ['POST', '/items/search', { filter: `title = '${text}'` }, '/filter'],
        [
          'POST',
          '/queries',
          {
            title: 'x',
            content: {
              filter: { op: '=', args: [{ property: 'title' }, text] },
              columns: [],
              order: [],
            },
          },
          '/content/filter/args/1',
        ],
        ['POST', '/labels', { title: text }, '/title'],
        ['PATCH', '/items/YARD/1', { fields: { [text]: 'x' } }, '/fields'],
        ['POST', '/items/YARD/1/comments', { body: text }, '/body'],
        ['POST', '/measures/evaluate', { 'a/b~': [text] }, '/a~1b~0/0'],
      ]
      for (const [method, path, body, pointer] of calls) {
        const answer = await tom(method, path, body, { 'if-match': '*' })
        expect(
          [answer.status, answer.body.errors?.[0].pointer, answer.body.errors?.[0].message],
          `${method} ${path}`,
        ).toEqual([400, pointer, expect.stringMatching(message)])
      }
    }
    expect((await tom('GET', '/queries/a%00b')).status).toBe(400)
    expect((await tom('GET', '/queries/%ed%a0%80')).status).toBeLessThan(500)
  })

  it('in every parameter never reaches SQL as text: no answer is a defect', async () => {
    for (const text of hostile) {
      const quoted = text.replaceAll("'", "''")
      const calls: [string, string, unknown?][] = [
        ['POST', '/items/search', { filter: `title = '${quoted}'` }],
        ['POST', '/items/search', { filter: `title LIKE '${quoted}'` }],
        ['POST', '/items/search', { filter: `CASEI(title) = CASEI('${quoted}')` }],
        ['POST', '/items/search', { filter: text }],
        ['POST', '/items/search', { filter: `"${text}" = 1` }],
        ['POST', '/items/search', { filter: `status = '${quoted}'` }],
        ['POST', '/items/search', { filter: `parent = '${quoted}'` }],
        ['POST', '/items/search', { filter: '', sort: text }],
        ['POST', '/items/search', { filter: '', fields: text }],
        ['POST', '/items/search', { filter: '', cursor: text }],
        ['POST', '/items/search', { filter: '', 'as-of': text }],
        [
          'POST',
          '/items/search',
          {
            filter: '',
            cursor: Buffer.from(JSON.stringify([text, 1])).toString('base64url'),
            sort: 'title',
          },
        ],
        ['POST', '/items/search', { filter: { op: 'like', args: [{ property: 'title' }, text] } }],
        ['POST', '/items/search', { filter: { op: text, args: [] } }],
        ['POST', '/items/search', { filter: { op: '=', args: [{ property: text }, text] } }],
        ['GET', `/items/${encodeURIComponent(text.slice(0, 60))}/1`],
        ['GET', `/queries/${encodeURIComponent(text.slice(0, 60))}`],
        [
          'POST',
          '/measures/evaluate',
          { filter: '', figure: { kind: 'sum', field: text }, by: [text] },
        ],
        ['POST', '/queries/check', { filter: `has_label('${quoted}')` }],
        [
          'POST',
          '/queries',
          {
            title: text.slice(0, 100) || 'x',
            content: {
              filter: { op: '=', args: [{ property: 'title' }, text] },
              columns: [],
              order: [],
            },
          },
        ],
      ]
      for (const [method, path, body] of calls) {
        const { status } = await tom(method, path, body)
        expect(status, `${method} ${path} ${JSON.stringify(body)}`).toBeLessThan(500)
      }
    }
    expect(
      (await rows<{ count: number }>(served.database, 'SELECT count(*) AS count FROM item'))[0]!
        .count,
    ).toBeGreaterThan(500)
  }, 120_000)

  it('with characters that cannot be kept is refused with the reason', async () => {
    const { status, body } = await tom('POST', '/items', {
      project: 'YARD',
      type: 'Defect',
      title: 'a\u0000b',
    })
    expect([status, body.errors[0].message]).toEqual([400, expect.stringContaining('U+0000')])
  })

  it('that is no JSON, or too much of it, is told as such', async () => {
    const send = async (body: string) => {
      const response = await fetch(`${served.origin}/api/v1/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      })
      return {
        status: response.status,
        type: response.headers.get('content-type'),
        body: (await response.json()) as { detail: string },
      }
    }
    expect(await send('{')).toMatchObject({
      status: 400,
      type: expect.stringContaining('application/problem+json'),
      body: { detail: 'The body is not JSON.' },
    })
    expect(await send(JSON.stringify({ email: 'x'.repeat(2_100_000) }))).toMatchObject({
      status: 413,
    })
  })
})
