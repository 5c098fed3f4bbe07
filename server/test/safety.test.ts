import { request } from 'node:http'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { prune } from '../src/jobs/prune.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, signIn, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())

const any = { 'if-match': '*' }
const make = async (type: string, more: object = {}, project = 'YARD') =>
  (await mara('POST', '/items', { project, type, title: `A ${type.toLowerCase()}`, ...more })).body
const cookieOf = async (name: string): Promise<string> =>
  (
    await fetch(`${served.origin}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${name}@marrowmere.example`, password: 'marrowmere' }),
    })
  ).headers
    .getSetCookie()[0]!
    .split(';')[0]!

/** A request as a browser sends it: header names that `fetch` keeps for itself can be given. */
const raw = async (
  path: string,
  {
    method = 'POST',
    headers = {},
    body = '',
  }: { method?: string; headers?: Record<string, string>; body?: string },
): Promise<{ status: number; headers: Record<string, unknown> }> =>
  await new Promise((done, failed) => {
    const sent = request(
      `${served.origin}${path}`,
      { method, headers: { 'content-type': 'application/json', ...headers } },
      (answer) => {
        answer.resume()
        answer.on('end', () => done({ status: answer.statusCode!, headers: answer.headers }))
      },
    )
    sent.on('error', failed)
    sent.end(body)
  })

describe('the tree of items has no circle', () => {
  it('by no change of a parent, and none of a type', async () => {
    const [programme, pack, job] = [
      await make('Programme'),
      await make('Work package'),
      await make('Job'),
    ]
    await mara('PATCH', `/items/${pack.ref}`, { parent: programme.ref }, any)
    await mara('PATCH', `/items/${job.ref}`, { parent: pack.ref }, any)
    // A programme that became a check would stand above what it must stand below.
    expect(
      (await mara('PATCH', `/items/${programme.ref}`, { type: 'Check' }, any)).body.detail,
    ).toMatch(/cannot have a Work package below it/)
    expect(
      (await mara('PATCH', `/items/${job.ref}`, { type: 'Programme' }, any)).body.detail,
    ).toMatch(/higher tier/)
    expect((await mara('PATCH', `/items/${programme.ref}`, { parent: job.ref }, any)).status).toBe(
      409,
    )
  })

  it('and one that is there already is shown, and ends every question', async () => {
    const [above, below] = [await make('Programme'), await make('Work package')]
    const ids = await rows<{ id: number; number: number }>(
      served.database,
      `SELECT i.id, i.number FROM item i JOIN project p ON p.id = i.project_id WHERE p.code = 'YARD' AND i.number = ANY($1::int[])`,
      [[above, below].map((entry) => Number(entry.ref.split('/')[1]))],
    )
    const idOf = (item: { ref: string }): number =>
      ids.find((entry) => entry.number === Number(item.ref.split('/')[1]))!.id
    await rows(
      served.database,
      'UPDATE item SET parent_id = CASE id WHEN $1 THEN $2::int ELSE $1 END WHERE id IN ($1, $2) RETURNING id',
      [idOf(above), idOf(below)],
    )
    const shown = (await mara('GET', `/items/${above.ref}`)).body
    expect([shown.parent.id, shown.fields.done_below]).toEqual([below.ref, 0])
    expect(
      (
        await mara('POST', '/items/search', {
          filter: `estimated_below IS NULL AND ref IN ('${above.ref}', '${below.ref}')`,
          sort: '-done_below',
        })
      ).body.total,
    ).toBe(2)
    expect(
      (
        await mara('POST', '/items/search', {
          filter: `done_below = 0 AND ref = '${above.ref}'`,
          'as-of': '2026-11-25',
        })
      ).status,
    ).toBe(200)
    await rows(
      served.database,
      'UPDATE item SET parent_id = NULL WHERE id IN ($1, $2) RETURNING id',
      [idOf(above), idOf(below)],
    )
  })
})

describe('what a person may do has one door each', () => {
  it.each<[string, object]>([
    ['a project', { fields: { project: 'CREW' } }],
    ['a place in the order', { fields: { position: 'zzzz' } }],
    ['a phase', { fields: { phase: 'done' } }],
    ['when it was done', { fields: { done: '2020-01-01T00:00:00Z' } }],
    ['when it was made', { fields: { created: '2020-01-01T00:00:00Z' } }],
    ['a ref', { fields: { ref: 'YARD/1' } }],
    ['a count', { fields: { comments: 9 } }],
    ['links', { fields: { links: [] } }],
    ['a title among the custom fields', { fields: { title: 'x' } }],
    [
      'what is looked up by chance',
      { fields: { constructor: 'x', __proto__: 'x', toString: 'x' } },
    ],
  ])('%s is not given through the fields', async (_, change) => {
    const item = await make('Defect')
    const answer = await tom('PATCH', `/items/${item.ref}`, change, any)
    expect(answer.status).toBe(400)
    expect((await tom('GET', `/items/${item.ref}`)).etag).toBe(item.etag)
  })

  it('nor through a template, or what is given beside one', async () => {
    const content = {
      item: {
        title: 'x',
        type: 'ty_defect',
        values: { done: '2020-01-01T00:00:00Z', position: 'zz', phase: 'done' },
        fields: {},
      },
      children: [],
      links: [],
    }
    expect(
      (
        await mara('POST', '/templates', { title: 'Forged', rulebook: 'rb_yard', content })
      ).body.errors.map((error: { pointer: string }) => error.pointer),
    ).toEqual([
      '/content/item/values/done',
      '/content/item/values/position',
      '/content/item/values/phase',
    ])
    expect(
      (
        await tom('POST', '/templates/te_quick/make', {
          project: 'YARD',
          over: { done: '2020-01-01T00:00:00Z' },
        })
      ).body.errors[0].pointer,
    ).toBe('/done')
  })

  it('a number that is taken already is passed over', async () => {
    await rows(
      served.database,
      `UPDATE project SET last_number = 0 WHERE code = 'PIER' RETURNING id`,
    )
    const [made, again] = [await make('Defect', {}, 'PIER'), await make('Defect', {}, 'PIER')]
    expect(Number(again.ref.split('/')[1])).toBe(Number(made.ref.split('/')[1]) + 1)
  })

  it('an item takes components and labels of its own project', async () => {
    expect(
      (
        await tom('POST', '/items', {
          project: 'YARD',
          type: 'Defect',
          title: 'x',
          components: ['co_pier1'],
        })
      ).body.errors[0],
    ).toMatchObject({
      pointer: '/components',
      message: expect.stringMatching(/belongs to another project/),
    })
    const item = await make('Defect')
    expect(
      (await tom('PATCH', `/items/${item.ref}`, { components: ['co_fare1'] }, any)).status,
    ).toBe(400)
  })

  it('a component’s keeper is assigned whenever the item gets it and has nobody', async () => {
    const [item, taken] = [await make('Defect'), await make('Defect', { assignee: 'Mara Thiel' })]
    expect(
      (await tom('PATCH', `/items/${item.ref}`, { components: ['Shore crane'] }, any)).body.assignee
        .title,
    ).toBe('Tom Okafor')
    expect(
      (await tom('PATCH', `/items/${taken.ref}`, { components: ['Shore crane'] }, any)).body
        .assignee.title,
    ).toBe('Mara Thiel')
    const nobody = await make('Defect')
    expect(
      (
        await tom(
          'PATCH',
          `/items/${nobody.ref}`,
          { components: ['Shore crane'], assignee: null },
          any,
        )
      ).body.assignee,
    ).toBeNull()
  })

  it.each(['constructor', '__proto__', 'toString', 'x', 'QU_ALL', 'qu_'])(
    'an identity that is none is not found: %s',
    async (identity) => {
      for (const path of ['/queries', '/dashboards', '/definitions/rulebooks', '/templates'])
        expect((await mara('GET', `${path}/${identity}`)).status).toBe(404)
      expect((await mara('GET', `/definitions/rulebooks/${identity}/keepers`)).status).toBe(404)
      expect((await mara('PATCH', `/labels/${identity}`, { title: 'x' }, any)).status).toBe(404)
      expect(
        (await mara('POST', '/projects', { title: 'x', code: 'XY', rulebook: identity })).status,
      ).toBe(400)
    },
  )
})

describe('a session begins and ends at once', () => {
  /** What a stream says until it ends. */
  async function listening(
    cookie: string,
  ): Promise<{ said: () => string; ended: Promise<void>; close: () => void }> {
    const leave = new AbortController()
    const answer = await fetch(`${served.origin}/api/v1/live`, {
      headers: { cookie },
      signal: leave.signal,
    })
    let text = ''
    const ended = (async () => {
      for await (const part of answer.body!) text += Buffer.from(part as Uint8Array).toString()
    })().catch(() => undefined)
    for (let tries = 0; tries < 1000 && !text.includes('event: open'); tries += 1) await pause(10)
    return { said: () => text, ended, close: () => leave.abort() }
  }

  it('begins with its cookie, however slow its row is to write', async () => {
    await served.database.query(`
      CREATE FUNCTION dawdle() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM pg_sleep(0.3); RETURN NEW; END $$;
      CREATE TRIGGER dawdle BEFORE INSERT ON session FOR EACH ROW EXECUTE FUNCTION dawdle();
    `)
    const cookie = await cookieOf('ida.lund')
    const { status } = await raw('/api/v1/session', { method: 'GET', headers: { cookie } })
    await served.database.query('DROP TRIGGER dawdle ON session; DROP FUNCTION dawdle()')
    expect(status).toBe(200)
  })

  it('with sign-out: the stream closes', async () => {
    const cookie = await cookieOf('ida.lund')
    const stream = await listening(cookie)
    expect((await raw('/api/v1/session', { method: 'DELETE', headers: { cookie } })).status).toBe(
      204,
    )
    await stream.ended
    expect(stream.said()).toContain('event: open')
  })

  it('with deactivation: nothing more is answered or told', async () => {
    const cookie = await cookieOf('ida.lund')
    const stream = await listening(cookie)
    await rows(
      served.database,
      `UPDATE person SET active = false WHERE name = 'Ida Lund' RETURNING id`,
    )
    await stream.ended
    expect(
      (await raw('/api/v1/items?limit=1', { method: 'GET', headers: { cookie } })).status,
    ).toBe(401)
    await expect(signIn(served.origin, 'Ida Lund')).rejects.toThrow('401')
    await rows(
      served.database,
      `UPDATE person SET active = true WHERE name = 'Ida Lund' RETURNING id`,
    )
  })

  it('a role or a membership that is taken holds from the next request and the next event on', async () => {
    const stream = await listening(await cookieOf('tom.okafor'))
    await rows(
      served.database,
      `UPDATE person SET role = 'viewer' WHERE name = 'Greta Holm' RETURNING id`,
    )
    expect(
      (await greta('POST', '/items', { project: 'YARD', type: 'Defect', title: 'x' })).status,
    ).toBe(403)
    await rows(
      served.database,
      `UPDATE person SET role = 'member' WHERE name = 'Greta Holm' RETURNING id`,
    )
    await rows(served.database, `UPDATE project SET open = false WHERE code = 'FARE' RETURNING id`)
    const hidden = await make('Change', {}, 'FARE')
    const seen = await make('Defect')
    for (let tries = 0; tries < 2000 && !stream.said().includes(seen.ref); tries += 1)
      await pause(10)
    expect([stream.said().includes(seen.ref), stream.said().includes(hidden.ref)]).toEqual([
      true,
      false,
    ])
    await rows(served.database, `UPDATE project SET open = true WHERE code = 'FARE' RETURNING id`)
    stream.close()
  })

  it('a stream that was away says which event it saw last, and is told what it missed, once', async () => {
    const cookie = await cookieOf('tom.okafor')
    const first = await listening(cookie)
    const before = await make('Defect')
    for (let tries = 0; tries < 2000 && !first.said().includes(before.ref); tries += 1)
      await pause(10)
    first.close()
    const last = [...first.said().matchAll(/id: (\S+)/g)].at(-1)![1]!
    const missed = await make('Defect')
    await pause(100)
    const leave = new AbortController()
    const again = await fetch(`${served.origin}/api/v1/live`, {
      headers: { cookie, 'last-event-id': last },
      signal: leave.signal,
    })
    let text = ''
    void (async () => {
      for await (const part of again.body!) text += Buffer.from(part as Uint8Array).toString()
    })().catch(() => undefined)
    for (let tries = 0; tries < 2000 && !text.includes(missed.ref); tries += 1) await pause(10)
    expect([text.split(missed.ref).length - 1, text.includes(before.ref)]).toEqual([1, false])
    leave.abort()
  })

  it('a stream goes on after its connection to the database was ended', async () => {
    const stream = await listening(await cookieOf('tom.okafor'))
    await rows(
      served.database,
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'bluestem live' AND datname = current_database()`,
    )
    for (let tries = 0; tries < 3000 && !stream.said().includes('event: back'); tries += 1)
      await pause(10)
    const made = await make('Defect')
    for (let tries = 0; tries < 3000 && !stream.said().includes(made.ref); tries += 1)
      await pause(10)
    expect(stream.said()).toMatch(new RegExp(`event: away[^]*event: back[^]*${made.ref}`))
    stream.close()
  })
})

describe('what comes from elsewhere is turned away', () => {
  it.each<[string, Record<string, string>, number]>([
    ['from our own page', { 'sec-fetch-site': 'same-origin' }, 204],
    ['by an address bar', { 'sec-fetch-site': 'none' }, 204],
    ['by a program', {}, 204],
    ['from another page', { origin: 'http://elsewhere.example' }, 403],
    ['from a page that hides', { origin: 'null' }, 403],
    ['from an origin that is none', { origin: 'not an origin' }, 403],
    ['from another page that does not say which', { 'sec-fetch-site': 'cross-site' }, 403],
    ['from a neighbour', { 'sec-fetch-site': 'same-site' }, 403],
    ['under another name', { host: 'rebound.example' }, 421],
  ])('a change %s', async (_, headers, status) => {
    const cookie = await cookieOf('tom.okafor')
    expect(
      (await raw('/api/v1/session', { method: 'DELETE', headers: { cookie, ...headers } })).status,
    ).toBe(status)
  })

  it('nothing is stored on its way, but what has a version is private', async () => {
    const cookie = await cookieOf('tom.okafor')
    const header = async (path: string): Promise<unknown> =>
      (await raw(path, { method: 'GET', headers: { cookie } })).headers['cache-control']
    expect([
      await header('/api/v1/items?limit=1'),
      await header('/api/v1/items/YARD/1'),
      await header('/api/v1/nowhere'),
      await header('/api/v1/session'),
    ]).toEqual(['no-store', 'private, no-cache', 'no-store', 'no-store'])
  })

  it('tries to sign in are counted by account, whatever address they say they come from', async () => {
    const strict = await serveWorkspace({ signIns: 20 })
    const attempt = async (from: string): Promise<number> =>
      (
        await fetch(`${strict.origin}/api/v1/session`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-forwarded-for': from },
          body: JSON.stringify({ email: 'tom.okafor@marrowmere.example', password: 'wrong' }),
        })
      ).status
    const answers: number[] = []
    for (let tries = 0; tries < 12; tries += 1) answers.push(await attempt(`10.0.0.${tries}`))
    expect([answers.filter((answer) => answer === 401).length, answers.at(-1)]).toEqual([10, 429])
    // Nobody else is kept out by it.
    expect(await strict.signIn('Mara Thiel')).toBeDefined()
    await strict.close()
  })

  it('changes of one person have a limit, and it says when to go on', async () => {
    const strict = await serveWorkspace({ writes: 3 })
    const hers = await strict.signIn('Tom Okafor')
    const statuses: number[] = []
    for (let tries = 0; tries < 5; tries += 1)
      statuses.push((await hers('POST', '/items/YARD/1/comments', { body: 'x' })).status)
    expect(statuses).toEqual([201, 201, 201, 429, 429])
    expect((await hers('POST', '/items/search', { limit: 1 })).status).toBe(200)
    await strict.close()
  })
})

describe('an item that was read before an edition', () => {
  it('has another ETag afterwards, so that its new words are read; a change meant for it is taken all the same', async () => {
    const item = await make('Defect')
    const draft = await mara('POST', '/definitions/drafts', {
      title: 'Words',
      edits: [{ path: ['statuses', 'st_open', 'title'], after: 'Begun' }],
    })
    expect(
      (await mara('POST', `/definitions/drafts/${draft.body.id}/publish`, {}, any)).body,
    ).toMatchObject({ edition: expect.any(Number) })
    const after = await tom('GET', `/items/${item.ref}`)
    expect([after.etag === item.etag, after.body.status.title]).toEqual([false, 'Begun'])
    expect(
      (await tom('PATCH', `/items/${item.ref}`, { title: 'Said anew' }, { 'if-match': item.etag }))
        .status,
    ).toBe(200)
    expect(
      (await tom('PATCH', `/items/${item.ref}`, { title: 'Again' }, { 'if-match': item.etag }))
        .status,
    ).toBe(412)
  })
})

describe('what serves for a while', () => {
  it('is taken away at its age, and nothing else is', async () => {
    await rows(
      served.database,
      `INSERT INTO session (sid, sess, expire) VALUES ('old', '{}', now() - interval '1 minute') RETURNING sid`,
    )
    await rows(
      served.database,
      `INSERT INTO answered (key, by_id, subject, at) VALUES ('old', 1, 'YARD/1', now() - interval '8 days'), ('new', 1, 'YARD/1', now()) RETURNING key`,
    )
    await rows(
      served.database,
      `INSERT INTO attempt (key, hits, ends) VALUES ('old', 1, now() - interval '1 minute') RETURNING key`,
    )
    await rows(
      served.database,
      `INSERT INTO outbox (at, kind, subject) VALUES ($1::timestamptz - interval '8 days', 'item', 'YARD/1') RETURNING number`,
      [testNow],
    )
    const last = await make('Defect')
    await prune(served.database, testNow)
    const [left] = await rows<object>(
      served.database,
      `SELECT (SELECT count(*) FROM session WHERE sid = 'old') AS sessions, (SELECT array_agg(key) FROM answered WHERE key IN ('old', 'new')) AS keys, (SELECT count(*) FROM attempt WHERE key = 'old') AS attempts,
      (SELECT count(*) FROM outbox WHERE at < $2::timestamptz - interval '7 days') AS told, (SELECT count(*) FROM outbox WHERE subject = $1) AS latest`,
      [last.ref, testNow],
    )
    expect(left).toEqual({ sessions: 0, keys: ['new'], attempts: 0, told: 0, latest: 1 })
  })
})
