import { Validator } from '@seriousme/openapi-schema-validator'
import { contracts } from '@bluestem/core/contract'
import type { Contract } from '@bluestem/core/schema'
import { judgeAnswer } from '../src/http/judge.ts'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { caller, serveWorkspace, signIn, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let ida: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  ida = await served.signIn('Ida Lund')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())

const makeDefect = async (
  title: string,
  more: object = {},
): Promise<{ ref: string; etag: string }> =>
  (await tom('POST', '/items', { project: 'YARD', type: 'Defect', title, ...more })).body

describe('signing in', () => {
  it('refuses a wrong password and an unknown name in the same words', async () => {
    await expect(signIn(served.origin, 'Tom Okafor', 'wrong')).rejects.toThrow('401')
    const post = async (email: string) =>
      await caller(served.origin, {})('POST', '/session', { email, password: 'wrong' })
    expect((await post('tom.okafor@marrowmere.example')).body.detail).toBe(
      (await post('nobody@marrowmere.example')).body.detail,
    )
  })

  it('sets a cookie that scripts cannot read, and ends with the session', async () => {
    const response = await fetch(`${served.origin}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'ida.lund@marrowmere.example', password: 'marrowmere' }),
    })
    expect(response.headers.getSetCookie()[0]).toMatch(/HttpOnly; SameSite=Lax/)
    const own = caller(served.origin, {
      cookie: response.headers.getSetCookie()[0]!.split(';')[0]!,
    })
    expect((await own('GET', '/session')).body.person.name).toBe('Ida Lund')
    expect((await own('DELETE', '/session')).status).toBe(204)
    expect((await own('GET', '/session')).status).toBe(401)
  })

  it('takes changes only from its own pages', async () => {
    expect(
      (
        await tom(
          'POST',
          '/items',
          { project: 'YARD', type: 'Defect', title: 'x' },
          { origin: 'http://elsewhere.example' },
        )
      ).status,
    ).toBe(403)
  })
})

describe('who may do what', () => {
  const everything: [string, string, object][] = [
    ['POST', '/items', { project: 'YARD', type: 'Defect', title: 'x' }],
    ['PATCH', '/items/YARD/1', { title: 'x' }],
    ['DELETE', '/items/YARD/1', {}],
    ['POST', '/items/YARD/1/comments', { body: 'x' }],
    ['POST', '/queries', { title: 'x', content: { filter: true, columns: [], order: [] } }],
    ['PATCH', '/queries/qu_all', { title: 'x' }],
    ['DELETE', '/views/vi_stop', {}],
    ['POST', '/dashboards', { title: 'x', content: { widgets: [] } }],
    ['POST', '/definitions/drafts', { title: 'x' }],
    ['GET', '/audit', {}],
    ['PATCH', '/definitions/drafts/dr_proposal', { title: 'x' }],
    ['DELETE', '/definitions/drafts/dr_proposal', {}],
    ['POST', '/definitions/drafts/dr_proposal/publish', {}],
    ['POST', '/definitions/drafts/dr_proposal/rebase', { choices: {} }],
    ['DELETE', '/definitions/drafts/dr_proposal/changes/ch_proposal', {}],
    [
      'POST',
      '/definitions/proposals',
      { title: 'x', edits: [{ path: ['fields', 'fi_cost', 'title'], after: 'x' }] },
    ],
    ['POST', '/definitions/import', {}],
    ['POST', '/definitions/editions/1/draft', {}],
    ['PATCH', '/definitions/rulebooks/rb_yard/keepers', { keepers: [] }],
    ['POST', '/labels', { title: 'x' }],
    ['PATCH', '/labels/la_free1', { title: 'x' }],
    ['POST', '/labels/merge', { into: 'la_free1', from: ['la_free2'] }],
    ['POST', '/labels/la_free1/lift', { family: null }],
    ['POST', '/components', { project: 'pr_yard', title: 'x' }],
    ['PATCH', '/components/co_yard1', { title: 'x' }],
    ['POST', '/components/merge', { into: 'co_yard1', from: ['co_yard2'] }],
    ['POST', '/calendars', { title: 'x', hours: {}, daysOff: [] }],
    ['PATCH', '/calendars/ca_standard', { title: 'x', hours: {}, daysOff: [] }],
    ['POST', '/teams', { title: 'x' }],
    ['PATCH', '/teams/tm_yard', { title: 'x' }],
    ['DELETE', '/teams/tm_yard', {}],
    ['DELETE', '/calendars/ca_yard', {}],
    ['POST', '/projects', { title: 'x', code: 'XX', rulebook: 'rb_yard' }],
    ['PATCH', '/projects/pr_yard', { title: 'x' }],
    [
      'POST',
      '/templates',
      {
        title: 'x',
        rulebook: 'rb_yard',
        content: {
          item: { title: 'x', type: 'ty_defect', values: {}, fields: {} },
          children: [],
          links: [],
        },
      },
    ],
    ['PATCH', '/templates/te_quick', { title: 'x' }],
    ['POST', '/templates/te_refit/mend', {}],
    ['POST', '/templates/te_quick/make', { project: 'YARD' }],
    ['POST', '/templates/te_quick/apply', { ref: 'YARD/1', how: 'fill', keep: false }],
  ]
  it.each(everything)('a viewer may not %s %s', async (method, path, body) => {
    const answer = await ida(method, path, method === 'GET' ? undefined : body, { 'if-match': '*' })
    expect([answer.status, answer.body.title]).toEqual([403, 'Not allowed'])
  })

  it('a member changes no definition, no shared question of another, and sees no audit', async () => {
    expect((await greta('POST', '/definitions/drafts', { title: 'x' })).status).toBe(403)
    expect(
      (
        await tom('POST', '/definitions/drafts', {
          title: 'x',
          edits: [{ path: ['fields', 'fi_cost', 'title'], after: 'x' }],
        })
      ).status,
    ).toBe(403)
    expect(
      (await tom('PATCH', '/queries/qu_all', { title: 'x' }, { 'if-match': '*' })).status,
    ).toBe(403)
    expect((await tom('GET', '/audit')).status).toBe(403)
  })

  it('nobody is told anything of a project that is not theirs', async () => {
    const crew = (await mara('GET', '/items?filter=project%20%3D%20%27CREW%27&limit=1')).body
    expect(crew.total).toBeGreaterThan(0)
    const { ref } = crew.items[0]
    for (const path of [
      `/items/${ref}`,
      `/items/${ref}/history`,
      `/items/${ref}/comments`,
      '/projects/CREW/offers',
    ])
      expect((await tom('GET', path)).status).toBe(404)
    expect((await tom('PATCH', `/items/${ref}`, { title: 'x' }, { 'if-match': '*' })).status).toBe(
      404,
    )
    for (const filter of ['', `ref = '${ref}'`, `parent = '${ref}'`, "parent.title LIKE '%'"]) {
      const found = (await tom('POST', '/items/search', { filter, fields: 'project', limit: 1000 }))
        .body
      expect(
        found.items.every((item: { project: { mark: string } }) => item.project.mark !== 'CREW'),
        filter,
      ).toBe(true)
    }
    const hers = (await mara('POST', '/items/search', { filter: '' })).body.total
    expect((await tom('POST', '/items/search', { filter: '' })).body.total).toBe(hers - crew.total)
    expect(
      (await tom('POST', '/items/search', { filter: '', 'as-of': '2026-06-01' })).body.total,
    ).toBeLessThan(
      (await mara('POST', '/items/search', { filter: '', 'as-of': '2026-06-01' })).body.total,
    )
    const projects = (answer: { body: { groups: { key: { title: string }[] }[] } }): string[] =>
      answer.body.groups.map((group) => group.key[0]!.title)
    const measure = {
      measure: 'me_work',
      by: ['project'],
      over: { from: '2026-11-01', to: '2026-11-25', step: 'week' },
    }
    expect(projects(await mara('POST', '/measures/evaluate', measure))).toContain(
      'Crewing and Timetable',
    )
    expect(projects(await tom('POST', '/measures/evaluate', measure))).not.toContain(
      'Crewing and Timetable',
    )
  })

  it('a private question stays private', async () => {
    const { body } = await mara('POST', '/queries', {
      title: 'Only mine',
      content: { filter: true, columns: ['ref'], order: [] },
    })
    expect((await tom('GET', `/queries/${body.id}`)).status).toBe(404)
    expect(
      (
        await tom('POST', '/views', {
          title: 'x',
          content: {
            query: body.id,
            kind: 'list',
            columns: [],
            order: [],
            group: null,
            board: null,
          },
        })
      ).status,
    ).toBe(400)
    const shared = await mara('POST', '/views', {
      title: 'Would be blank',
      shared: 'everyone',
      content: { query: body.id, kind: 'list', columns: [], order: [], group: null, board: null },
    })
    expect([shared.status, shared.body.detail]).toEqual([
      409,
      'This view would be blank for others: the query “Only mine” behind it is only yours. Share that first.',
    ])
    const hidden = await mara('PATCH', '/queries/qu_yard', { shared: 'me' }, { 'if-match': '*' })
    expect([hidden.status, hidden.body.detail]).toEqual([
      409,
      expect.stringContaining('the view “Yard morning board”'),
    ])
  })
})

describe('items', () => {
  it('are made once for one intention', async () => {
    const make = async () =>
      await tom(
        'POST',
        '/items',
        { project: 'YARD', type: 'Defect', title: 'Twice pressed' },
        { 'idempotency-key': 'press-1' },
      )
    const [first, second] = [await make(), await make()]
    expect([first.status, second.status, second.body.ref]).toEqual([201, 200, first.body.ref])
  })

  it('need the version a change is meant for, and tell who was faster', async () => {
    const { ref, etag } = await makeDefect('Raced for')
    expect((await tom('PATCH', `/items/${ref}`, { title: 'x' })).status).toBe(428)
    expect(
      (await tom('PATCH', `/items/${ref}`, { estimate: 3 }, { 'if-match': etag })).status,
    ).toBe(200)
    const late = await mara('PATCH', `/items/${ref}`, { estimate: 5 }, { 'if-match': etag })
    expect(late.status).toBe(412)
    expect(late.body.changed[0]).toMatchObject({
      by: { title: 'Tom Okafor' },
      words: [[{ text: 'set estimate to ' }, { text: '3', value: true }]],
    })
    expect((await mara('GET', `/items/${ref}`)).body.estimate).toBe(3)
  })

  it('refuse a move off their flow with where they may go instead, and keep everything as it was', async () => {
    const { ref } = await makeDefect('Not so fast')
    const refused = await tom(
      'PATCH',
      `/items/${ref}`,
      { status: 'Signed off', title: 'Changed on the way' },
      { 'if-match': '*' },
    )
    expect(refused.status).toBe(409)
    expect(refused.body.detail).toBe(
      'A Defect does not go from Open to Signed off. From Open it may go to In hand, Waiting for parts or Withdrawn.',
    )
    expect(refused.body.allowed.map((one: { id: string }) => one.id)).toEqual([
      'st_hand',
      'st_parts',
      'st_withdrawn',
    ])
    expect((await tom('GET', `/items/${ref}`)).body.title).toBe('Not so fast')
  })

  it('tell every value that does not fit, each with its place and what would do', async () => {
    const { status, body } = await tom('POST', '/items', {
      project: 'YARD',
      type: 'Defect',
      title: '  ',
      due: '2026-02-30',
      estimate: 'much',
      fields: { berth: 'Nort Pier 1', lost: 1, hours_lost: '1.25' },
    })
    expect(status).toBe(400)
    expect(body.errors.map((error: { pointer: string }) => error.pointer).sort()).toEqual([
      '/due',
      '/estimate',
      '/fields/berth',
      '/fields/hours_lost',
      '/fields/lost',
      '/title',
    ])
    expect(body.errors.every((error: { expected?: string }) => error.expected)).toBe(true)
  })

  it('keep every state: history says who, when and what, and as-of shows it as it was', async () => {
    served.setNow(new Date('2026-11-26T09:00:00Z'))
    const { ref } = await makeDefect('With a past', { priority: 'Passenger nuisance' })
    served.setNow(new Date('2026-11-27T09:00:00Z'))
    await mara(
      'PATCH',
      `/items/${ref}`,
      { status: 'In hand', priority: 'Sailing stopped', labels: ['deck: hull'] },
      { 'if-match': '*' },
    )
    served.setNow(new Date('2026-11-28T09:00:00Z'))
    await tom(
      'PATCH',
      `/items/${ref}`,
      { labels: ['deck: hull', 'deck: saloon', 'ramp'] },
      { 'if-match': '*' },
    )
    await tom('POST', `/items/${ref}/comments`, { body: 'Looked at it.' })
    const { versions } = (await tom('GET', `/items/${ref}/history`)).body
    const lines = versions.map(
      (version: { by: { title: string }; words: { text: string }[][] }) =>
        `${version.by.title} ${version.words.map((line) => line.map((said) => said.text).join('')).join('; ')}`,
    )
    expect(lines).toEqual([
      'Tom Okafor raised it',
      'Mara Thiel moved it from Open to In hand; raised the priority from Passenger nuisance to Sailing stopped; added labels deck: hull',
      'Tom Okafor added labels deck: saloon, ramp; took away labels deck: hull',
      'Tom Okafor said something',
    ])
    for (const [index, version] of versions.slice(0, -1).entries())
      expect(version.to).toBe(versions[index + 1].from)
    const was = (
      await tom('POST', '/items/search', {
        filter: `ref = '${ref}'`,
        fields: 'status,labels',
        'as-of': '2026-11-26',
      })
    ).body
    expect(was.items[0].status.title).toBe('Open')
  })

  it('that are deleted answer no question any more, and keep their history', async () => {
    const { ref } = await makeDefect('Not wanted')
    expect((await tom('DELETE', `/items/${ref}`, undefined, { 'if-match': '*' })).status).toBe(204)
    expect((await tom('GET', `/items/${ref}`)).status).toBe(404)
    expect((await tom('POST', '/items/search', { filter: `ref = '${ref}'` })).body.total).toBe(0)
    expect((await tom('GET', `/items/${ref}/history`)).body.versions).toHaveLength(2)
  })

  it('stand only below a higher tier', async () => {
    const [defect, check] = [
      await makeDefect('Above'),
      (await tom('POST', '/items', { project: 'YARD', type: 'Check', title: 'Below' })).body,
    ]
    expect(
      (await tom('PATCH', `/items/${check.ref}`, { parent: defect.ref }, { 'if-match': '*' })).body
        .parent.id,
    ).toBe(defect.ref)
    expect(
      (await tom('PATCH', `/items/${defect.ref}`, { parent: check.ref }, { 'if-match': '*' }))
        .status,
    ).toBe(409)
  })

  it('come in pages of any order, each exactly once', async () => {
    for (const sort of [
      '-changed',
      'title',
      'due',
      '-due',
      'priority,ref',
      'assignee',
      'estimate,-created',
      'ref',
      'labels',
      'status',
      'on_hold',
      'position',
    ]) {
      const refs: string[] = []
      let cursor: string | null = ''
      while (cursor !== null) {
        const { status, body } = await tom('POST', '/items/search', {
          filter: "project = 'PIER'",
          sort,
          fields: 'ref',
          limit: 30,
          ...(cursor ? { cursor } : {}),
        })
        expect(status, `${sort} ${JSON.stringify(body)}`).toBe(200)
        refs.push(...body.items.map((item: { ref: string }) => item.ref))
        cursor = body.next
      }
      const whole = (
        await tom('POST', '/items/search', {
          filter: "project = 'PIER'",
          sort,
          fields: 'ref',
          limit: 1000,
        })
      ).body
      expect(refs, sort).toEqual(whole.items.map((item: { ref: string }) => item.ref))
      expect(new Set(refs).size).toBe(whole.total)
    }
  })
})

describe('questions', () => {
  it('with errors are never run: each error with its place, what was found and the nearest spelling', async () => {
    const { status, body } = await tom(
      'GET',
      `/items?filter=${encodeURIComponent("stauts = 'Open'")}`,
    )
    expect([status, body.errors[0]]).toEqual([
      400,
      expect.objectContaining({ pointer: '/filter', from: 0, to: 6, nearest: 'status' }),
    ])
    expect((await tom('POST', '/queries/check', { filter: "stauts = 'Open'" })).status).toBe(200)
  })

  it('too long for an address are told to come as a body', async () => {
    const { status, body } = await tom('GET', `/items?filter=${'x'.repeat(8100)}`)
    expect([status, body.detail]).toEqual([414, expect.stringContaining('/api/v1/items/search')])
  })

  it('that name what is no property, cursor, moment or number are refused in words', async () => {
    for (const [field, value] of [
      ['sort', 'nothing'],
      ['fields', 'nothing'],
      ['cursor', 'e30'],
      ['as-of', 'yesterday'],
      ['limit', 5000],
    ] as const) {
      const { status, body } = await tom('POST', '/items/search', { filter: '', [field]: value })
      expect([status, body.errors[0].pointer]).toEqual([400, `/${field}`])
    }
    expect(
      (
        await tom('POST', '/items/search', {
          filter: '1e400 * 1e400 * 1e400 > 1'.replace(
            '> 1',
            `* ${'1e400 * '.repeat(400)}1 > estimate`,
          ),
        })
      ).status,
    ).toBe(400)
  })

  it('are kept by identity: a renamed status changes no meaning and shows its new name', async () => {
    const kept = (
      await tom('POST', '/queries', {
        title: 'In hand',
        content: { filter: "status = 'In hand'", columns: ['ref'], order: [] },
      })
    ).body
    const { total } = (
      await tom('POST', '/items/search', { filter: kept.content.filter, kept: true })
    ).body
    const draft = await mara('POST', '/definitions/drafts', { title: 'Words' })
    const edited = await mara(
      'PATCH',
      `/definitions/drafts/${draft.body.id}`,
      { edits: [{ path: ['statuses', 'st_hand', 'title'], after: 'Being done' }] },
      { 'if-match': draft.etag },
    )
    expect(edited.body.changes[0]).toMatchObject({
      words: 'renames status “In hand” to “Being done”',
      items: expect.any(Number),
      by: 'Mara Thiel',
    })
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${draft.body.id}/publish`,
          { note: 'Plainer' },
          { 'if-match': draft.etag },
        )
      ).status,
    ).toBe(412)
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${draft.body.id}/publish`,
          { note: 'Plainer' },
          { 'if-match': edited.etag },
        )
      ).body,
    ).toEqual({ edition: 5, mapping: 0 })
    expect((await tom('GET', `/queries/${kept.id}`)).body.text).toBe("status = 'Being done'")
    expect(
      (await tom('POST', '/items/search', { filter: "status = 'Being done'" })).body.total,
    ).toBe(total)
    expect(
      (await mara('GET', '/audit')).body.acts.some(
        (act: { act: string; subject: string }) =>
          act.act === 'published' && act.subject === 'edition 5',
      ),
    ).toBe(true)
  })
})

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
    expect(told.map((one) => one.route).sort()).toEqual(kept.map(([route]) => route).sort())
    expect(told.filter((one) => one.answers).map((one) => one.route)).toEqual(
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

describe('links', () => {
  const kinds = async (): Promise<Record<string, { title: string; refusesCircles?: boolean }>> =>
    (await mara('GET', '/definitions')).body.document.linkKinds

  it('stand on both items in their own words, close no circle, and end with a trace', async () => {
    const all = Object.entries(await kinds())
    const [kind] = all.find(([, one]) => one.refusesCircles) ?? all[0]!
    const [a, b] = [await makeDefect('A'), await makeDefect('B')]
    const body = { kind, direction: 'out', to: b.ref }
    const made = await tom('POST', `/items/${a.ref}/links`, body)
    expect(made.status, JSON.stringify(made.body)).toBe(201)
    const [there] = made.body.links
    const [back] = (await tom('GET', `/items/${b.ref}/links`)).body.links
    expect([there.ref, there.direction, back.ref, back.direction]).toEqual([
      b.ref,
      'out',
      a.ref,
      'in',
    ])
    expect(there.words).not.toBe(back.words)
    const circle = await tom('POST', `/items/${b.ref}/links`, { ...body, to: a.ref })
    expect(circle.status).toBe((await kinds())[kind]!.refusesCircles ? 409 : 201)
    expect((await tom('POST', `/items/${a.ref}/links`, { ...body, to: a.ref })).status).toBe(409)
    expect((await tom('DELETE', `/items/${b.ref}/links/${there.id}`)).status).toBe(204)
    expect((await tom('GET', `/items/${a.ref}/links`)).body.links).toEqual([])
    expect((await tom('DELETE', `/items/${a.ref}/links/${there.id}`)).status).toBe(404)
    const { versions } = (await tom('GET', `/items/${a.ref}/history`)).body
    expect(versions).toHaveLength(3)
  })
})
