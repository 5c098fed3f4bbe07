import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

/**
 * A closed project is planted with words and numbers that stand nowhere else, tied to what is open in every way there is. Then
 * everything is read as everybody who may not see it, and no answer may hold a trace of it.
 */
let served: Served
let mara: Caller
let roles: Record<string, Caller>
let routes: { method: string; path: string }[]
let planted: { ids: string[]; refs: string[]; open: string; numbers: number[] }

const any = { 'if-match': '*' }
const ok = (reply: { status: number; body: any; etag: string }) => {
  if (reply.status >= 300) throw new Error(`planting failed: ${JSON.stringify(reply.body)}`)
  return reply
}

async function plant(): Promise<void> {
  const project = ok(
    await mara('POST', '/projects', {
      title: 'Quillwort Hangar',
      code: 'ZYX',
      description: 'Where quillworts grow',
      rulebook: 'rb_yard',
      open: false,
    }),
  ).body
  const label = ok(
    await mara('POST', '/labels', {
      title: 'quillberry',
      project: project.id,
      description: 'quillish',
    }),
  ).body
  const family = ok(
    await mara('POST', '/labels', { title: 'quillseed', family: 'fa_gear', project: project.id }),
  ).body
  const component = ok(
    await mara('POST', '/components', { title: 'Quillmast', project: project.id, keeper: 'pe_02' }),
  ).body
  const template = ok(
    await mara('POST', '/templates', {
      title: 'Quilltemplate',
      project: project.id,
      content: {
        item: { title: 'Quill it', type: 'ty_defect', values: { labels: [label.id] }, fields: {} },
        children: [],
        links: [],
      },
    }),
  ).body
  const top = ok(
    await mara('POST', '/items', {
      project: 'ZYX',
      type: 'Programme',
      title: 'Quillery refit',
      description: 'quillwards',
    }),
  ).body
  const below = ok(
    await mara('POST', '/items', {
      project: 'ZYX',
      type: 'Defect',
      title: 'Quillspring leaks',
      labels: ['quillberry'],
      components: ['Quillmast'],
      estimate: 987_654,
      assignee: 'Tom Okafor',
      fields: { hours_lost: 398.7, berth: 'Slipway' },
    }),
  ).body
  ok(await mara('POST', `/items/${below.ref}/comments`, { body: 'quillcomment' }))
  ok(await mara('PATCH', `/items/${below.ref}`, { status: 'In hand' }, any))
  // Open things that lean on closed ones, and the other way round.
  const open = ok(
    await mara('POST', '/items', {
      project: 'YARD',
      type: 'Work package',
      title: 'Open above closed',
      parent: top.ref,
    }),
  ).body
  ok(await mara('PATCH', `/items/${below.ref}`, { parent: open.ref }, any))
  const query = ok(
    await mara('POST', '/queries', {
      title: 'Names what is closed',
      shared: 'everyone',
      content: {
        filter:
          "project IN ('ZYX', 'YARD') OR A_OVERLAPS(labels, ('quillberry')) OR A_OVERLAPS(components, ('Quillmast'))",
        columns: ['ref', 'parent', 'labels'],
        order: [{ by: 'parent', direction: 'up' }],
      },
    }),
  ).body
  ok(
    await mara('POST', '/queries', {
      title: 'Quillprivate',
      content: { filter: true, columns: [], order: [] },
    }),
  )
  const view = ok(
    await mara('POST', '/views', {
      title: 'By what is closed',
      shared: 'everyone',
      content: {
        query: query.id,
        kind: 'board',
        columns: ['ref'],
        order: [],
        group: null,
        board: {
          by: 'project',
          columns: [project.id, 'pr_yard'],
          cards: ['parent'],
          finishedWithin: null,
        },
      },
    }),
  ).body
  ok(
    await mara('POST', '/views', {
      title: 'Quillview',
      content: {
        query: query.id,
        kind: 'list',
        columns: ['ref'],
        order: [],
        group: null,
        board: null,
      },
    }),
  )
  const measure = ok(
    await mara('POST', '/measures', {
      title: 'Estimates of all',
      shared: 'everyone',
      content: {
        query: query.id,
        figure: { kind: 'sum', field: 'estimate' },
        unit: 'h',
        better: null,
        target: null,
      },
    }),
  ).body
  ok(
    await mara('POST', '/dashboards', {
      title: 'Quilldash',
      content: {
        widgets: [
          { id: 'a', kind: 'figure', title: 'x', measure: measure.id, x: 0, y: 0, w: 4, h: 4 },
        ],
      },
    }),
  )
  const team = ok(
    await mara('POST', '/teams', {
      title: 'Leans on it',
      remit: "project = 'ZYX' OR A_OVERLAPS(labels, ('quillberry'))",
      people: ['pe_02'],
    }),
  ).body
  const draft = ok(
    await mara('POST', '/definitions/drafts', {
      title: 'Moves it',
      edits: [{ path: ['projects', project.id], after: 'rb_safety' }],
    }),
  ).body
  ok(await mara('PATCH', '/definitions/rulebooks/rb_yard/keepers', { keepers: ['pe_14'] }, any))
  planted = {
    ids: [
      project.id,
      label.id,
      family.id,
      component.id,
      template.id,
      query.id,
      view.id,
      measure.id,
      team.id,
      draft.id,
    ],
    refs: [top.ref, below.ref],
    open: open.ref,
    numbers: [],
  }
}

beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  await plant()
  // A member, a keeper of the rulebook it follows, somebody of another closed project, and a viewer.
  roles = Object.fromEntries(
    await Promise.all(
      [
        ['member', 'Tom Okafor'],
        ['keeper', 'Greta Holm'],
        ['of another', 'Hanna Reiss'],
        ['viewer', 'Ida Lund'],
      ].map(async ([role, name]) => [role, await served.signIn(name!)]),
    ),
  )
  const { paths } = (await mara('GET', '/openapi.json')).body as {
    paths: Record<string, Record<string, unknown>>
  }
  routes = Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => ({ method, path: path.replace('/api/v1', '') })),
  )
}, 60_000)
afterAll(async () => await served.close())

/** Words, codes, identities, refs and numbers that stand nowhere else. */
function tracesIn(text: string): string[] {
  const [project, label, family, component, template] = planted.ids
  const found = [
    /quill\w*/i,
    /\bZYX\b(?:\/\d+)?/,
    /987[,.]?654/,
    /398\.7/,
    ...[project, label, family, component, template].map((id) => new RegExp(id!)),
  ]
  return found.flatMap((trace) => trace.exec(text)?.[0] ?? [])
}

const known = (): string[] => [
  ...planted.ids,
  'qu_all',
  'qu_open',
  'qu_late',
  'vi_stop',
  'vi_morning',
  'da_week',
  'te_quick',
  'rb_yard',
  'rb_everyone',
  'ty_defect',
  'ty_package',
  'pr_yard',
  'la_free1',
  'co_yard1',
]
const written = new Map<string, string[]>([
  ['{code}', ['YARD', 'PIER', 'SAFE']],
  ['{number}', ['1', '2', '3', '4', '5', '6']],
  ['{to}', ['1', '2', '5', '6']],
  ['{type}', ['ty_defect', 'ty_programme']],
  ['{change}', ['ch_proposal']],
])

/** Every address of a route, with all that could stand in its places. */
function addresses(path: string): string[] {
  const place = /\{\w+\}/.exec(path)?.[0]
  if (!place) return [path]
  const values =
    place === '{number}' && path.startsWith('/items')
      ? [...written.get(place)!, planted.open.split('/')[1]!]
      : (written.get(place) ?? known())
  return values.flatMap((value) => addresses(path.replace(place, value)))
}

const fields = [
  'ref',
  'title',
  'parent',
  'labels',
  'components',
  'project',
  'estimate',
  'assignee',
  'estimated_below',
  'done_below',
  'harm',
  'description',
  'created',
].join(',')
const filters = [
  'TRUE',
  'parent IS NOT NULL',
  'parent.estimate > 0',
  "parent.title LIKE '%'",
  'estimate > 900000',
  'estimated_below > 0',
  'done_below IS NOT NULL',
  "title LIKE '%uill%'",
  "description LIKE '%uill%'",
  'changes_of(parent) > 0',
  "days_in(status, 'In hand') > 0",
  "first_into('active') IS NOT NULL",
]
/** Slips of the hand that are nearest to what is closed: no suggestion may put them right. */
const slips = [
  "project = 'ZYW'",
  "project = 'Quilwort Hangar'",
  "A_OVERLAPS(labels, ('quilberry'))",
  "A_OVERLAPS(labels, ('gear: quilseed'))",
  "A_OVERLAPS(components, ('Quilmast'))",
  "A_OVERLAPS(components, ('ZYW: Quillmast'.x))",
  "has_label('gear', 'quilseed')",
]

/** Questions by POST that only read. */
const reading = (): [string, object][] => [
  ...[...filters, ...slips].flatMap((filter): [string, object][] => [
    ['/items/search', { filter, fields, limit: 1000, sort: 'parent' }],
    ['/items/search', { filter, fields, limit: 1000, 'as-of': '2026-11-25' }],
    ['/queries/check', { filter }],
    ...['parent', 'project', 'labels', 'components', 'assignee', 'status'].map(
      (by): [string, object] => [
        '/measures/evaluate',
        { filter, figure: { kind: 'sum', field: 'estimate' }, by: [by] },
      ],
    ),
  ]),
  ...['parent', 'labels', 'components'].map((by): [string, object] => [
    '/measures/evaluate',
    {
      filter: 'TRUE',
      figure: { kind: 'greatest', field: 'estimate' },
      by: [by],
      over: { from: '2026-11-20', to: '2026-11-25', step: 'day' },
    },
  ]),
  ...['estimate', 'hours_lost'].map((field): [string, object] => [
    '/measures/evaluate',
    { filter: 'TRUE', figure: { kind: 'greatest', field } },
  ]),
  ...['project', 'status', 'assignee'].map((by): [string, object] => [
    '/views/arrange',
    {
      view: {
        query: planted.ids[5],
        kind: 'board',
        columns: ['ref'],
        order: [],
        group: null,
        board: { by, columns: [], cards: [], finishedWithin: null },
      },
    },
  ]),
  ['/measures/evaluate', { measure: planted.ids[7], by: ['project'] }],
  ['/definitions/scores/preview', { formula: 'estimate * 2' }],
  ['/definitions/differences', {}],
  ['/templates/te_quick/fill', { project: 'YARD' }],
]

/** Attempts that must be refused, without the refusal naming what is closed. */
const attempts = (): [string, string, object][] => [
  ['PATCH', `/items/${planted.open}`, { labels: ['quilberry'] }],
  ['PATCH', `/items/${planted.open}`, { components: ['Quilmast'] }],
  ['PATCH', `/items/${planted.open}`, { parent: 'ZYW/1' }],
  ['PATCH', `/items/${planted.open}`, { type: 'Check' }],
  ['POST', '/items', { project: 'ZYW', type: 'Defect', title: 'x' }],
  ['POST', '/labels', { title: 'quilberry' }],
  ['POST', '/labels/merge', { into: 'la_free1', from: [planted.ids[1]] }],
  ['DELETE', `/queries/${planted.ids[5]}`, {}],
  ['PATCH', `/queries/${planted.ids[5]}`, { shared: 'me' }],
  ['PATCH', `/labels/${planted.ids[1]}`, { title: 'x' }],
  ['PATCH', `/components/${planted.ids[3]}`, { title: 'x' }],
  ['PATCH', `/templates/${planted.ids[4]}`, { title: 'x' }],
  ['POST', `/templates/${planted.ids[4]}/make`, { project: 'YARD' }],
  ['POST', '/templates/from', { ref: planted.open, children: true }],
  ['POST', '/templates/te_quick/apply', { ref: planted.open, how: 'fill', keep: false }],
  ['DELETE', `/teams/${planted.ids[8]}`, {}],
  ['PATCH', '/projects/pr_yard', { title: 'x' }],
]

describe('of a closed project', () => {
  it.each(['member', 'keeper', 'of another', 'viewer'])(
    'nothing that is read holds a trace, for a %s',
    async (role) => {
      const caller = roles[role]!
      const found: string[] = []
      const look = async (method: string, path: string, body?: unknown): Promise<void> => {
        const answer = await caller(method, path, body, method === 'GET' ? {} : any)
        if (answer.status >= 500) found.push(`${method} ${path}: ${answer.status}`)
        for (const trace of tracesIn(JSON.stringify(answer.body)))
          found.push(
            `${method} ${path} ${body ? JSON.stringify(body).slice(0, 120) : ''}: ${trace}`,
          )
      }
      for (const { path } of routes.filter(
        (route) => route.method === 'get' && route.path !== '/live',
      ))
        for (const address of addresses(path)) await look('GET', address)
      for (const address of [
        `/items?fields=${fields}&limit=1000`,
        `/items?fields=${fields}&limit=1000&as-of=2026-11-25&sort=-parent`,
        '/definitions/usage?options=fi_berth',
        '/definitions/usage?options=fi_found',
        `/definitions/drafts/${planted.ids[9]}/replay?days=3000`,
      ])
        await look('GET', address)
      for (const [path, body] of reading()) await look('POST', path, body)
      for (const [method, path, body] of attempts()) await look(method, path, body)
      expect([...new Set(found)]).toEqual([])
    },
    240_000,
  )

  it('the administrator, who sees it, finds every trace: the test would notice', async () => {
    const texts = [
      await mara('GET', `/items?fields=${fields}&limit=1000`),
      await mara('GET', '/labels'),
      await mara('GET', '/components'),
      await mara('GET', '/templates'),
      await mara('GET', '/teams'),
      await mara('GET', '/definitions/editions'),
      await mara('GET', `/queries/${planted.ids[5]}`),
    ]
    for (const { body } of texts) expect(tracesIn(JSON.stringify(body)).length).toBeGreaterThan(0)
  })

  it('nothing goes over the stream', async () => {
    const session = await fetch(`${served.origin}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'tom.okafor@marrowmere.example', password: 'marrowmere' }),
    })
    const leave = new AbortController()
    const stream = await fetch(`${served.origin}/api/v1/live`, {
      headers: { cookie: session.headers.getSetCookie()[0]!.split(';')[0]! },
      signal: leave.signal,
    })
    let text = ''
    void (async () => {
      for await (const part of stream.body!) text += Buffer.from(part as Uint8Array).toString()
    })().catch(() => undefined)
    const [project, label, , component, template] = planted.ids
    ok(await mara('PATCH', `/items/${planted.refs[0]}`, { title: 'Quillery refitted' }, any))
    ok(await mara('PATCH', `/labels/${label}`, { colour: 4 }, any))
    ok(await mara('PATCH', `/components/${component}`, { description: 'quill' }, any))
    ok(await mara('PATCH', `/templates/${template}`, { description: 'quill' }, any))
    ok(await mara('PATCH', `/projects/${project}`, { description: 'quill' }, any))
    const privately = ok(
      await mara('POST', '/queries', {
        title: 'Only hers',
        content: { filter: true, columns: [], order: [] },
      }),
    ).body
    const open = ok(
      await mara('POST', '/items', { project: 'YARD', type: 'Defect', title: 'seen by all' }),
    ).body
    for (let tries = 0; tries < 3000 && !text.includes(open.ref); tries += 1) await pause(10)
    leave.abort()
    expect([text.includes(open.ref), tracesIn(text), text.includes(privately.id)]).toEqual([
      true,
      [],
      false,
    ])
  })

  it('what is kept with something unseen in it runs, and cannot be kept over by whoever does not see it', async () => {
    const tom = roles['member']!
    const read = (await tom('GET', `/queries/${planted.ids[5]}`)).body
    expect([read.errors, read.text]).toEqual([
      [],
      expect.stringContaining('something you may not see'),
    ])
    const answers = (
      await tom('POST', '/items/search', { filter: read.content.filter, kept: true, limit: 1 })
    ).body
    expect(answers.total).toBe(
      (await tom('POST', '/items/search', { filter: "project = 'YARD'", limit: 1 })).body.total,
    )
    expect(
      (await tom('POST', '/queries', { title: 'Mine', content: read.content })).body.errors[0]
        .message,
    ).toMatch(/you may not see/)
  })

  it('a parent that may not be seen is empty, in every condition, group and order', async () => {
    const tom = roles['member']!
    const total = async (filter: string): Promise<number> =>
      (await tom('POST', '/items/search', { filter, limit: 1 })).body.total
    expect(await total(`ref = '${planted.open}' AND parent IS NULL`)).toBe(1)
    expect(await total(`ref = '${planted.open}' AND parent = '${planted.refs[0]}'`)).toBe(0)
    expect(
      (
        await tom('POST', '/items/search', {
          filter: `ref = '${planted.open}' AND parent <> 'YARD/1'`,
          limit: 1,
        })
      ).body.cannotTell,
    ).toBe(1)
    expect(
      (
        await tom('POST', '/measures/evaluate', {
          filter: `ref = '${planted.open}'`,
          figure: { kind: 'count' },
          by: ['parent'],
        })
      ).body.groups,
    ).toEqual([{ key: [null], values: [1] }])
    expect(
      (
        await mara('POST', '/measures/evaluate', {
          filter: `ref = '${planted.open}'`,
          figure: { kind: 'count' },
          by: ['parent'],
        })
      ).body.groups[0].key[0],
    ).toEqual({ id: planted.refs[0], title: planted.refs[0] })
  })
})
