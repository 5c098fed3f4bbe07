import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const any = { 'if-match': '*' }
const over = (from: string, to: string, step = 'day') => ({
  figure: { kind: 'count' },
  over: { from, to, step },
})
const deep = (levels: number): unknown =>
  Array.from({ length: levels }).reduce<unknown>((inner) => [inner], 1)

describe('what cannot be computed is refused in words, at once, with its place', () => {
  it.each<[string, string, string, unknown, string]>([
    [
      'a span of all days there are',
      'POST',
      '/measures/evaluate',
      over('0001-01-01', '9999-12-31'),
      '/over',
    ],
    [
      'a span of three years and a bit',
      'POST',
      '/measures/evaluate',
      over('2020-01-01', '2023-02-01'),
      '/over',
    ],
    [
      'a span of a day that is none',
      'POST',
      '/measures/evaluate',
      over('2026-02-30', '2026-03-01'),
      '/over/from',
    ],
    [
      'a span of the year nought',
      'POST',
      '/measures/evaluate',
      over('0000-01-01', '0000-12-31', 'month'),
      '/over/from',
    ],
    [
      'days before there were days',
      'POST',
      '/items/search',
      { filter: 'created > days_ago(999999)' },
      '/filter',
    ],
    [
      'a year that never comes',
      'POST',
      '/items/search',
      { filter: 'T_INTERSECTS(due, year(9999))' },
      '/filter',
    ],
    ['as of the beginning of time', 'POST', '/items/search', { 'as-of': '0001-01-01' }, '/as-of'],
    [
      'as of a moment of the year nought',
      'POST',
      '/items/search',
      { 'as-of': '0000-01-01T00:00:00Z' },
      '/as-of',
    ],
    [
      'a field of a day that is none',
      'POST',
      '/items',
      { project: 'YARD', type: 'Defect', title: 'x', due: '10000-01-01' },
      '/due',
    ],
    [
      '101 properties',
      'POST',
      '/items/search',
      { fields: Array(101).fill('title').join(',') },
      '/fields',
    ],
    ['a body of 101 levels', 'POST', '/items/search', { filter: deep(101) }, ''],
    [
      'a cursor of other keys',
      'POST',
      '/items/search',
      { sort: 'created', cursor: Buffer.from('["x",1]').toString('base64url') },
      '',
    ],
  ])('%s', async (_, method, path, body, pointer) => {
    const answer = await tom(method, path, body)
    expect([answer.status, answer.body.title]).toEqual([400, 'Not valid'])
    if (pointer) expect(answer.body.errors[0].pointer).toMatch(new RegExp(`^${pointer}`))
    expect(answer.body.detail.length).toBeGreaterThan(10)
  })

  it('the last days there are can be asked about', async () => {
    expect(
      (
        await tom('POST', '/items/search', {
          filter: "due <= DATE('9999-12-31') AND created >= DATE('0001-01-01')",
        })
      ).status,
    ).toBe(200)
    expect(
      (
        await tom('POST', '/items/search', {
          filter: "T_INTERSECTS(created, INTERVAL('0001-01-01', '9999-12-31'))",
          limit: 1,
        })
      ).body.total,
    ).toBeGreaterThan(100)
    expect(
      (await tom('POST', '/measures/evaluate', over('9999-12-30', '9999-12-31'))).body.steps,
    ).toEqual(['9999-12-30', '9999-12-31'])
  })

  it('a template does not count days by the thousand million', async () => {
    const content = {
      item: {
        title: 'x',
        type: 'ty_defect',
        values: { due: { in: 1e9, unit: 'days' } },
        fields: {},
      },
      children: [],
      links: [],
    }
    const refused = await mara('POST', '/templates', { title: 'Far', rulebook: 'rb_yard', content })
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([
      400,
      '/content/item/values/due',
    ])
    // One that was kept before this was judged is used without the value.
    await rows(
      served.database,
      'UPDATE template SET content = $1::jsonb WHERE identity = $2 RETURNING id',
      [JSON.stringify(content), 'te_quick'],
    )
    expect(
      (await tom('POST', '/templates/te_quick/fill', { project: 'YARD' })).body.left[0].message,
    ).toMatch(/at most 36525 days/)
  })

  it('a body is at most 1 MB, a key at most 200 characters, and a file of definitions 20 MB', async () => {
    expect((await tom('POST', '/items/search', { filter: 'x'.repeat(1_100_000) })).status).toBe(413)
    expect(
      (
        await tom(
          'POST',
          '/items',
          { project: 'YARD', type: 'Defect', title: 'x' },
          { 'idempotency-key': 'k'.repeat(201) },
        )
      ).body.errors[0].pointer,
    ).toBe('/Idempotency-Key')
    expect(
      (
        await mara('POST', '/definitions/differences', {
          rulebook: 'rb_yard',
          definitions: { note: 'x'.repeat(1_100_000) },
        })
      ).status,
    ).not.toBe(413)
  })

  it('a body of thousands of wrong parts is refused with at most twenty of them', async () => {
    const edits = Array.from({ length: 2000 }, () => ({ path: 1 }))
    const { body } = await mara('POST', '/definitions/drafts', { title: 'x', edits })
    expect(body.errors.length).toBeLessThanOrEqual(20)
  })

  it('a file of definitions with a hundred things wrong tells twenty, and how many more there are', async () => {
    const { body: file } = await mara('GET', '/definitions/file')
    const alike = Object.fromEntries(
      Array.from({ length: 100 }, (_, index) => [`st_alike${index}`, file.statuses.st_open]),
    )
    const answer = await mara('POST', '/definitions/import', {
      ...file,
      statuses: { ...file.statuses, ...alike },
    })
    expect([answer.status, answer.body.errors.length]).toEqual([400, 20])
    expect(answer.body.detail).toMatch(/There is more of this kind: \d+ further\.$/)
  })

  it('digits beyond double precision are kept, on items and in filters', async () => {
    const digits = '12345678901234567890.25'
    const send = async (path: string, method: string, text: string) =>
      await (
        await fetch(`${served.origin}/api/v1${path}`, {
          method,
          headers: {
            cookie: await cookieOf(),
            'content-type': 'application/json',
            'if-match': '*',
          },
          body: text,
        })
      ).json()
    const made = await send(
      '/items',
      'POST',
      `{"project":"YARD","type":"Defect","title":"many digits","estimate":${digits}}`,
    )
    expect(made.estimate).toBe(digits)
    expect(
      (
        await send(
          '/items/search',
          'POST',
          `{"filter":{"op":"=","args":[{"property":"estimate"},${digits}]},"fields":"estimate"}`,
        )
      ).items[0].estimate,
    ).toBe(digits)
    expect(
      (
        await send(
          '/items/search',
          'POST',
          '{"filter":{"op":"=","args":[{"property":"estimate"},12345678901234567891.25]}}',
        )
      ).total,
    ).toBe(0)
  })
})

const cookieOf = async (): Promise<string> =>
  (
    await fetch(`${served.origin}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'tom.okafor@marrowmere.example', password: 'marrowmere' }),
    })
  ).headers
    .getSetCookie()[0]!
    .split(';')[0]!

describe('work ends when its asker is gone', () => {
  /** Makes every count of descriptions take long: the question runs in the database until it is ended. */
  const heavy = {
    filter: Array.from(
      { length: 60 },
      (_, index) =>
        `days_in(status, 'Open', INTERVAL('2026-01-01', '2026-06-${String((index % 28) + 1).padStart(2, '0')}')) > ${index}`,
    ).join(' OR '),
    figure: { kind: 'count' },
    over: { from: '2024-01-01', to: '2026-11-01', step: 'day' },
  }
  const running = async (): Promise<number> =>
    (
      await rows<{ count: number }>(
        served.database,
        `SELECT count(*) AS count FROM pg_stat_activity WHERE datname = current_database() AND state = 'active' AND pid <> pg_backend_pid() AND query LIKE '%item_state%'`,
      )
    )[0]!.count

  it('a request that is closed ends its statements and leaves the gate, so that publishing goes on', async () => {
    const cookie = await cookieOf()
    const leave = new AbortController()
    const asked = fetch(`${served.origin}/api/v1/measures/evaluate`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(heavy),
      signal: leave.signal,
    }).catch(() => undefined)
    for (let tries = 0; tries < 2000 && (await running()) === 0; tries += 1) await pause(20)
    expect(await running()).toBeGreaterThan(0)
    leave.abort()
    await asked
    for (let tries = 0; tries < 1000 && (await running()) > 0; tries += 1) await pause(20)
    expect(await running()).toBe(0)
    const draft = await mara('POST', '/definitions/drafts', {
      title: 'Go on',
      edits: [{ path: ['fields', 'fi_cost', 'description'], after: 'What they cost.' }],
    })
    expect(
      (await mara('POST', `/definitions/drafts/${draft.body.id}/publish`, {}, any)).status,
    ).toBe(201)
  })

  it('one person holds so many connections; who waits too long is told when to come back, and others are served meanwhile', async () => {
    const cookie = await cookieOf()
    const leave = new AbortController()
    const ask = async (): Promise<Response | undefined> =>
      await fetch(`${served.origin}/api/v1/measures/evaluate`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify(heavy),
        signal: leave.signal,
      }).catch(() => undefined)
    const many = Array.from({ length: 12 }, ask)
    const turned = await Promise.race(many)
    expect([turned?.status, turned?.headers.get('retry-after')]).toEqual([503, '3'])
    expect(await running()).toBeLessThanOrEqual(4)
    expect((await mara('GET', '/items?limit=1')).status).toBe(200)
    leave.abort()
    await Promise.all(many)
  }, 60_000)
})
