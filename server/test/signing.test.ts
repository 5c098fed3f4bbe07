import { afterAll, beforeAll, describe, expect, it } from 'vitest'
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
