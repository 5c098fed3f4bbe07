import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

/** How many races of each kind: a few in every run, many in the long one. */
const races = process.env['BLUESTEM_LONG'] ? 50 : 5

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
const statuses = (replies: readonly Reply[]): number[] =>
  replies.map((reply) => reply.status).sort((a, b) => a - b)
let made = 0
const fresh = (word: string): string => `${word} ${(made += 1)}`
const office = { hours: { 1: [['08:00', '16:00']] }, daysOff: [] }

/** Runs a race so many times, each with something made for it. */
async function eachTime(run: (round: number) => Promise<void>): Promise<void> {
  for (let round = 0; round < races; round += 1) await run(round)
}

interface Kind {
  readonly path: string
  readonly body: () => object
  readonly changes: readonly [object, object]
}

const kinds: Readonly<Record<string, Kind>> = {
  label: {
    path: '/labels',
    body: () => ({ title: fresh('label') }),
    changes: [{ description: 'one' }, { colour: 5 }],
  },
  component: {
    path: '/components',
    body: () => ({ project: 'pr_yard', title: fresh('component') }),
    changes: [{ description: 'one' }, { keeper: 'pe_02' }],
  },
  team: {
    path: '/teams',
    body: () => ({ title: fresh('team') }),
    changes: [{ people: ['pe_02'] }, { people: ['pe_03'] }],
  },
  calendar: {
    path: '/calendars',
    body: () => ({ title: fresh('calendar'), ...office }),
    changes: [
      { title: 'Early', ...office },
      { title: 'Late', ...office },
    ],
  },
  query: {
    path: '/queries',
    body: () => ({ title: fresh('query'), content: { filter: true, columns: ['ref'], order: [] } }),
    changes: [{ title: 'One' }, { description: 'two' }],
  },
  template: {
    path: '/templates',
    body: () => ({
      title: fresh('template'),
      rulebook: 'rb_yard',
      content: {
        item: { title: 'x', type: 'ty_defect', values: {}, fields: {} },
        children: [],
        links: [],
      },
    }),
    changes: [{ title: 'One' }, { description: 'two' }],
  },
}

describe(`of two who change the same version at one moment one wins, and the other is told what changed (${races} each)`, () => {
  it.each(Object.entries(kinds))(
    '%s',
    async (_, { path, body, changes }) =>
      await eachTime(async () => {
        const thing = await mara('POST', path, body())
        expect(thing.status, JSON.stringify(thing.body)).toBe(201)
        expect(thing.etag).toMatch(/^"\d+"$/)
        const replies = await Promise.all(
          changes.map(
            async (change) =>
              await mara('PATCH', `${path}/${thing.body.id}`, change, { 'if-match': thing.etag }),
          ),
        )
        expect(statuses(replies), JSON.stringify(replies.map((reply) => reply.body))).toEqual([
          200, 412,
        ])
        expect(replies.find((reply) => reply.status === 412)!.body.changed).toBeTruthy()
        expect((await mara('PATCH', `${path}/${thing.body.id}`, changes[0])).status).toBe(428)
      }),
  )

  it('project', async () =>
    await eachTime(async () => {
      const { body } = await mara('GET', '/projects')
      const { version } = body.projects.find((project: { code: string }) => project.code === 'YARD')
      const replies = await Promise.all(
        ['one', 'two'].map(
          async (description) =>
            await mara(
              'PATCH',
              '/projects/pr_yard',
              { description },
              { 'if-match': `"${version}"` },
            ),
        ),
      )
      expect(statuses(replies)).toEqual([200, 412])
    }))

  it('keepers of a rulebook', async () =>
    await eachTime(async () => {
      const { etag } = await mara('GET', '/definitions/rulebooks/rb_yard/keepers')
      const replies = await Promise.all(
        [['pe_02'], []].map(
          async (keepers) =>
            await mara(
              'PATCH',
              '/definitions/rulebooks/rb_yard/keepers',
              { keepers },
              { 'if-match': etag },
            ),
        ),
      )
      expect(statuses(replies)).toEqual([200, 412])
    }))

  it('item', async () =>
    await eachTime(async () => {
      const item = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'x' })
      const replies = await Promise.all(
        [{ title: 'one' }, { estimate: 2 }].map(
          async (change) =>
            await tom('PATCH', `/items/${item.body.ref}`, change, { 'if-match': item.etag }),
        ),
      )
      expect(statuses(replies)).toEqual([200, 412])
    }))

  it('publishing one draft twice', async () =>
    await eachTime(async (round) => {
      const draft = await mara('POST', '/definitions/drafts', {
        title: 'Race',
        edits: [
          { path: ['fields', 'fi_cost', 'description'], after: `What they cost us, ${round}.` },
        ],
      })
      const replies = await Promise.all(
        [1, 2].map(
          async () =>
            await mara(
              'POST',
              `/definitions/drafts/${draft.body.id}/publish`,
              {},
              { 'if-match': draft.etag },
            ),
        ),
      )
      expect(statuses(replies)[0]).toBe(201)
      expect([404, 409, 412]).toContain(statuses(replies)[1])
    }))
})

describe(`a draft that two change at once keeps both changes (${races} each)`, () => {
  it('of two parts of one field', async () =>
    await eachTime(async () => {
      const draft = await mara('POST', '/definitions/drafts', { title: 'Together' })
      const edits = [
        { path: ['fields', 'fi_berth', 'title'], after: fresh('Berth'), before: 'Berth' },
        {
          path: ['fields', 'fi_berth', 'description'],
          after: fresh('Where she lies'),
          before: 'Where the vessel lies.',
        },
      ]
      const replies = await Promise.all(
        edits.map(
          async (edit) =>
            await mara('PATCH', `/definitions/drafts/${draft.body.id}`, { edits: [edit] }, any),
        ),
      )
      expect(statuses(replies)).toEqual([200, 200])
      expect(
        (await mara('GET', `/definitions/drafts/${draft.body.id}`)).body.document.fields.fi_berth,
      ).toMatchObject({ title: edits[0]!.after, description: edits[1]!.after })
      await mara('DELETE', `/definitions/drafts/${draft.body.id}`, undefined, any)
    }))

  it('and of one part the second is told what the first made of it', async () =>
    await eachTime(async () => {
      const draft = await mara('POST', '/definitions/drafts', { title: 'Against' })
      const replies = await Promise.all(
        [1, 2].map(
          async () =>
            await mara(
              'PATCH',
              `/definitions/drafts/${draft.body.id}`,
              {
                edits: [
                  { path: ['fields', 'fi_berth', 'title'], after: fresh('Berth'), before: 'Berth' },
                ],
              },
              any,
            ),
        ),
      )
      expect(statuses(replies)).toEqual([200, 412])
      expect(replies.find((reply) => reply.status === 412)!.body.changed[0]).toMatchObject({
        pointer: '/fields/fi_berth/title',
        there: expect.stringMatching(/^Berth \d/),
      })
      await mara('DELETE', `/definitions/drafts/${draft.body.id}`, undefined, any)
    }))

  it('publishing at once publishes its own change alone, whatever waits in drafts', async () => {
    const waiting = await mara('POST', '/definitions/drafts', {
      title: 'Waits',
      edits: [{ path: ['fields', 'fi_hours', 'title'], after: 'Hours gone' }],
    })
    const small = await mara('POST', '/definitions/drafts', {
      title: 'A small change',
      edits: [{ path: ['fields', 'fi_hours', 'description'], after: 'Hours of timetable lost.' }],
    })
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${small.body.id}/publish`,
          {},
          { 'if-match': small.etag },
        )
      ).status,
    ).toBe(201)
    expect((await mara('GET', '/definitions')).body.document.fields.fi_hours).toMatchObject({
      title: 'Hours of sailing lost',
      description: 'Hours of timetable lost.',
    })
    expect((await mara('GET', `/definitions/drafts/${waiting.body.id}`)).body.changes).toHaveLength(
      1,
    )
    await mara('DELETE', `/definitions/drafts/${waiting.body.id}`, undefined, any)
  })
})

describe(`what rests on another thing holds it (${races} each)`, () => {
  const oneWins = (replies: readonly Reply[]): void => {
    expect(
      replies.filter((reply) => reply.status < 300).length,
      JSON.stringify(replies.map((reply) => [reply.status, reply.body])),
    ).toBe(1)
    expect(Math.max(...statuses(replies))).toBeLessThan(500)
  }

  it('a calendar that is deleted while a project takes it', async () =>
    await eachTime(async () => {
      await mara('PATCH', '/projects/pr_pier', { calendar: null }, any)
      const calendar = await mara('POST', '/calendars', { title: fresh('calendar'), ...office })
      const replies = await Promise.all([
        mara('DELETE', `/calendars/${calendar.body.id}`, undefined, { 'if-match': calendar.etag }),
        mara('PATCH', '/projects/pr_pier', { calendar: calendar.body.id }, any),
      ])
      expect(Math.max(...statuses(replies))).toBeLessThan(500)
      const [left] = await rows<{ named: boolean; there: boolean }>(
        served.database,
        `SELECT (SELECT calendar_id IS NOT NULL FROM project WHERE code = 'PIER') AS named, EXISTS (SELECT FROM calendar WHERE identity = $1) AS there`,
        [calendar.body.id],
      )
      expect(left!.named).toBe(left!.there)
    }))

  it.each(['view', 'measure', 'dashboard'])(
    'a query that is deleted while a %s is made of it',
    async (kind) =>
      await eachTime(async () => {
        const query = await mara('POST', '/queries', {
          title: fresh('query'),
          content: { filter: true, columns: ['ref'], order: [] },
        })
        const content: Record<string, object> = {
          view: {
            query: query.body.id,
            kind: 'list',
            columns: ['ref'],
            order: [],
            group: null,
            board: null,
          },
          measure: {
            query: query.body.id,
            figure: { kind: 'count' },
            unit: 'items',
            better: null,
            target: null,
          },
          dashboard: {
            widgets: [
              { id: 'a', kind: 'list', title: 'x', query: query.body.id, x: 0, y: 0, w: 4, h: 4 },
            ],
          },
        }
        oneWins(
          await Promise.all([
            mara('DELETE', `/queries/${query.body.id}`, undefined, { 'if-match': query.etag }),
            mara('POST', `/${kind}s`, { title: fresh(kind), content: content[kind] }),
          ]),
        )
      }),
  )

  it('labels merged into each other', async () =>
    await eachTime(async () => {
      const [reply, two] = [
        await mara('POST', '/labels', { title: fresh('label') }),
        await mara('POST', '/labels', { title: fresh('label') }),
      ]
      oneWins(
        await Promise.all([
          mara('POST', '/labels/merge', { into: reply.body.id, from: [two.body.id] }),
          mara('POST', '/labels/merge', { into: two.body.id, from: [reply.body.id] }),
        ]),
      )
      const labels = (await mara('GET', '/labels')).body.labels.filter((label: { id: string }) =>
        [reply.body.id, two.body.id].includes(label.id),
      )
      expect(labels.filter((label: { retired: boolean }) => label.retired)).toHaveLength(1)
    }))

  it.each<[string, () => object, string]>([
    ['label', () => ({ title: `twin ${made}` }), '/labels'],
    ['component', () => ({ project: 'pr_yard', title: `twin ${made}` }), '/components'],
    ['team', () => ({ title: `twin ${made}` }), '/teams'],
    ['project', () => ({ title: 'Twin', code: `TW${made}`, rulebook: 'rb_yard' }), '/projects'],
  ])(
    'twins of one name: %s',
    async (_, body, path) =>
      await eachTime(async () => {
        made += 1
        oneWins(await Promise.all([mara('POST', path, body()), mara('POST', path, body())]))
      }),
  )

  it('one key used twice at once makes one item', async () =>
    await eachTime(async () => {
      const key = { 'idempotency-key': fresh('key') }
      const replies = await Promise.all(
        [1, 2, 3].map(
          async () =>
            await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'once' }, key),
        ),
      )
      expect([statuses(replies), new Set(replies.map((reply) => reply.body.ref)).size]).toEqual([
        [200, 200, 201],
        1,
      ])
    }))
})

describe('hand order', () => {
  it('of 200 items made at once has 200 places, and moves keep them apart', async () => {
    const make = async (index: number): Promise<Reply> => {
      const by = [mara, tom][index % 2]!
      const item = { project: 'SAFE', type: 'Inspection', title: `Inspection ${index}` }
      const made = await by('POST', '/items', item)
      // Whoever waits too long on a busy machine is told to come back, and does.
      return made.status === 503 ? await make(index) : made
    }
    const many = await Promise.all(
      Array.from({ length: 200 }, async (_, index) => await make(index)),
    )
    expect(new Set(many.map((reply) => reply.status))).toEqual(new Set([201]))
    const refs = many.map((reply) => reply.body.ref as string)
    await Promise.all(
      refs
        .slice(0, 20)
        .map(
          async (ref) =>
            await mara(
              'PATCH',
              `/items/${ref}`,
              { position: { after: refs[100]!, before: refs[101]! } },
              any,
            ),
        ),
    )
    const [places] = await rows<{ all: number; apart: number }>(
      served.database,
      `SELECT count(*) AS all, count(DISTINCT position) AS apart FROM item i JOIN project p ON p.id = i.project_id WHERE p.code = 'SAFE' AND i.number = ANY($1::int[])`,
      [refs.map((ref) => Number(ref.split('/')[1]))],
    )
    expect(places).toEqual({ all: 200, apart: 200 })
  }, 60_000)
})
