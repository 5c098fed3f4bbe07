import { Validator } from '@seriousme/openapi-schema-validator'
import { contracts } from '@bluestem/core/contract'
import type { Contract } from '@bluestem/core/schema'
import { judgeAnswer } from '../src/http/judge.ts'
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

const makeDefect = async (
  title: string,
  more: object = {},
): Promise<{ ref: string; etag: string }> =>
  (await tom('POST', '/items', { project: 'YARD', type: 'Defect', title, ...more })).body

describe('definitions', () => {
  const draftWith = async (edits: object[]) => {
    const draft = await mara('POST', '/definitions/drafts', { title: 'Try' })
    return await mara(
      'PATCH',
      `/definitions/drafts/${draft.body.id}`,
      { edits },
      { 'if-match': draft.etag },
    )
  }
  const drop = async (id: string): Promise<void> =>
    void (await mara('DELETE', `/definitions/drafts/${id}`, undefined, { 'if-match': '*' }))

  it('add a column for every kind of field, which can be filled and asked for', async () => {
    const kinds: [string, string, unknown, string][] = [
      ['text', 'kind_text', 'abc', "kind_text = 'abc'"],
      ['long text', 'kind_long', 'abc', "kind_long LIKE 'a%'"],
      ['number', 'kind_number', '2.5', 'kind_number = 2.5'],
      ['date', 'kind_date', '2026-03-01', "kind_date = DATE('2026-03-01')"],
      [
        'moment',
        'kind_moment',
        '2026-03-01T08:00:00Z',
        "kind_moment = TIMESTAMP('2026-03-01T08:00:00Z')",
      ],
      ['yes/no', 'kind_yes', true, 'kind_yes = TRUE'],
      ['choice', 'kind_choice', 'One', "kind_choice = 'One'"],
      ['several choices', 'kind_several', ['One'], "A_CONTAINS(kind_several, ('One'))"],
      ['person', 'kind_person', 'Ilse Varga', "kind_person = 'Ilse Varga'"],
      ['people', 'kind_people', ['Ilse Varga'], "A_OVERLAPS(kind_people, ('Ilse Varga'))"],
      ['web address', 'kind_web', 'https://a.example', "kind_web LIKE 'https%'"],
    ]
    const options = (handle: string) => ({
      options: {
        [`op_${handle.replace('kind_', '')}1`]: { order: 'a0', title: 'One', description: '' },
      },
    })
    const edits = kinds.map(([kind, handle]) => ({
      path: ['fields', `fi_${handle.replace('kind_', 'k')}`],
      after: {
        order: 'z',
        title: handle,
        handle,
        kind,
        description: '',
        ...(kind.includes('choice') ? options(handle) : {}),
      },
    }))
    const edited = await draftWith(edits)
    expect(edited.status, JSON.stringify(edited.body)).toBe(200)
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${edited.body.id}/publish`,
          {},
          { 'if-match': edited.etag },
        )
      ).status,
    ).toBe(201)
    const { body } = await tom('POST', '/items', {
      project: 'YARD',
      type: 'Defect',
      title: 'All kinds',
      fields: Object.fromEntries(kinds.map(([, handle, value]) => [handle, value])),
    })
    expect(body.fields.kind_number, JSON.stringify(body)).toBe(2.5)
    for (const [, , , filter] of kinds)
      expect(
        (await tom('POST', '/items/search', { filter })).body.items?.map(
          (item: { ref: string }) => item.ref,
        ),
        filter,
      ).toEqual([body.ref])
    expect(
      await rows(served.database, 'SELECT id FROM item_state WHERE valid_from >= valid_to'),
    ).toEqual([])
  })

  it('are published whole or not at all, and not while something is unsound', async () => {
    const edited = await draftWith([
      { path: ['rulebooks', 'rb_everyone', 'entries', 'move:ty_check:st_open:st_signed'] },
      { path: ['rulebooks', 'rb_everyone', 'entries', 'move:ty_check:st_hand:st_signed'] },
    ])
    expect(edited.body.problems[0].message).toBe(
      'Nothing leads to “Signed off” in the flow of “Check”.',
    )
    const before = (await mara('GET', '/definitions')).body.edition.number
    const refused = await mara(
      'POST',
      `/definitions/drafts/${edited.body.id}/publish`,
      {},
      { 'if-match': edited.etag },
    )
    expect([refused.status, (await mara('GET', '/definitions')).body.edition.number]).toEqual([
      409,
      before,
    ])
    await drop(edited.body.id)
  })

  it.each<[string, object, string]>([
    ['a wrong type', { path: ['types', 'ty_job', 'tier'], after: 'high' }, '/types/ty_job/tier'],
    [
      'a part that means nothing',
      { path: ['types', 'ty_job', 'colour'], after: 'red' },
      '/types/ty_job/colour',
    ],
    ['an identity of another kind', { path: ['statuses', 'ty_x1'], after: {} }, '/statuses/ty_x1'],
    [
      'a changed handle',
      { path: ['fields', 'fi_berth', 'handle'], after: 'quay' },
      '/fields/fi_berth/handle',
    ],
    [
      'a changed kind',
      { path: ['fields', 'fi_berth', 'kind'], after: 'text' },
      '/fields/fi_berth/kind',
    ],
  ])('refuse %s at the door, with its place', async (_, edit, pointer) => {
    const edited = await draftWith([edit])
    expect([
      edited.status,
      edited.body.errors?.map((error: { pointer: string }) => error.pointer),
    ]).toEqual([400, expect.arrayContaining([pointer])])
    const { drafts } = (await mara('GET', '/definitions/drafts')).body
    const tried = drafts.filter((draft: { title: string }) => draft.title === 'Try')
    expect(tried.map((draft: { count: number }) => draft.count)).toEqual([0])
    await drop(tried[0].id)
  })

  it('count what a change touches as the items themselves do', async () => {
    const edited = await draftWith([
      { path: ['statuses', 'st_parts', 'title'], after: 'Stuck again' },
      { path: ['fields', 'fi_cost', 'title'], after: 'Price of parts' },
      { path: ['rulebooks', 'rb_yard', 'entries', 'move:ty_defect:st_parts:st_signed'], after: {} },
    ])
    const counted = async (filter: string): Promise<number> =>
      (await mara('POST', '/items/search', { filter, limit: 1 })).body.total
    expect(edited.body.changes.map((change: { items: number }) => change.items)).toEqual([
      await counted("status = 'Waiting for parts'"),
      await counted('cost_of_parts IS NOT NULL'),
      await counted("status = 'Waiting for parts' AND type = 'Defect'"),
    ])
    await drop(edited.body.id)
  })

  it('say how often each move was really made', async () => {
    const { moves } = (await mara('GET', '/definitions/moves/ty_defect?days=365')).body
    const [brute] = await rows<{ count: number }>(
      served.database,
      `SELECT count(*) AS count FROM item_state b JOIN item_state a ON a.id = b.id AND a.valid_to = b.valid_from JOIN status sa ON sa.number = a.status_id JOIN status sb ON sb.number = b.status_id
      WHERE sa.identity = 'st_open' AND sb.identity = 'st_hand' AND b.type_id = (SELECT number FROM item_type WHERE identity = 'ty_defect') AND b.valid_from >= timestamptz '2026-11-28T09:00:00Z' - interval '365 days'`,
    )
    expect(moves['st_open:st_hand']).toBe(brute!.count)
  })
})

describe('the description of the API', () => {
  it('is a valid OpenAPI 3.1 document', async () => {
    const { body } = await mara('GET', '/openapi.json')
    expect(await new Validator().validate(body)).toMatchObject({ valid: true })
    expect(Object.keys(body.paths).length).toBeGreaterThan(25)
  })

  it('tells what every endpoint answers, and every contract but those of coming in and going is kept by one', async () => {
    const { paths } = (await mara('GET', '/openapi.json')).body as {
      paths: Record<string, Record<string, { responses: Record<string, { content?: object }> }>>
    }
    const told = Object.entries(paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, { responses }]) => ({
        route: `${method.toUpperCase()} ${path.replace('/api/v1', '')}`,
        answers: responses['2XX']?.content !== undefined,
      })),
    )
    const signing = [
      'POST /session',
      'DELETE /session',
      'POST /invitation',
      'POST /invitation/accepted',
    ]
    const kept = Object.entries<Contract>(contracts).filter(([route]) => !signing.includes(route))
    expect(told.map((entry) => entry.route).sort()).toEqual(kept.map(([route]) => route).sort())
    expect(told.filter((entry) => entry.answers).map((entry) => entry.route)).toEqual(
      expect.arrayContaining(kept.filter(([, { answer }]) => answer).map(([route]) => route)),
    )
  })

  it('is what answers are judged by in every test: one that tells something else is a defect', () => {
    const served = { route: 'GET /labels', contract: contracts['GET /labels'] }
    expect(() => judgeAnswer(served, { labels: [] })).not.toThrow()
    expect(() => judgeAnswer(served, { labels: [{ id: 'la_1' }] })).toThrow(
      /GET \/labels answers something else than its contract/,
    )
    expect(() => judgeAnswer({ route: 'DELETE /x', contract: {} }, { more: 1 })).toThrow(
      'DELETE /x',
    )
  })
})

describe('the live stream', () => {
  it('tells what changed to those who may see it', async () => {
    const response = await fetch(`${served.origin}/api/v1/live`, {
      headers: { cookie: await cookieOf('Tom Okafor') },
    })
    const reader = response.body!.getReader()
    const told = (async () => {
      let text = ''
      while (!text.includes('YARD/')) text += new TextDecoder().decode((await reader.read()).value)
      return text
    })()
    const hidden = (
      await mara('POST', '/items', { project: 'CREW', type: 'Job', title: 'Not for Tom' })
    ).body.ref
    const { ref } = await makeDefect('For everyone')
    const text = await told
    await reader.cancel()
    expect(text).toContain(`"subject":"${ref}"`)
    expect(text).not.toContain(hidden)
  })
})

async function cookieOf(name: string): Promise<string> {
  const response = await fetch(`${served.origin}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      email: `${name.toLowerCase().replaceAll(' ', '.')}@marrowmere.example`,
      password: 'marrowmere',
    }),
  })
  return response.headers.getSetCookie()[0]!.split(';')[0]!
}
