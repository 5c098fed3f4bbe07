import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cardFields, columnFilter } from '@bluestem/core/views'
import { run } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let ida: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

const queryContent = {
  filter: "type = 'Defect'",
  columns: ['ref', 'title'],
  order: [{ by: 'due', direction: 'up' }],
}
const listContent = (query: string) => ({
  query,
  kind: 'list',
  columns: ['ref'],
  order: [],
  group: 'status',
  board: null,
})
const boardContent = (
  query: string,
  by = 'status',
  columns: (string | null)[] = ['st_open', 'st_hand'],
) => ({
  query,
  kind: 'board',
  columns: [],
  order: [],
  group: null,
  board: { by, columns, cards: ['priority'], finishedWithin: null },
})

describe.each([
  ['queries', () => queryContent],
  ['views', () => listContent('qu_all')],
  [
    'measures',
    () => ({
      query: 'qu_all',
      figure: { kind: 'count' },
      unit: 'items',
      better: null,
      target: null,
    }),
  ],
  [
    'dashboards',
    () => ({
      widgets: [
        { id: 'a', kind: 'figure', title: 'x', measure: 'me_work', x: 0, y: 0, w: 3, h: 2 },
      ],
    }),
  ],
] as const)('%s', (plural, content) => {
  it('are kept, read, changed with the version one read, and deleted', async () => {
    const made = await tom('POST', `/${plural}`, { title: ' Mine ', content: content() })
    expect([
      made.status,
      made.body.title,
      made.body.shared,
      made.body.owner.title,
      made.body.mayEdit,
    ]).toEqual([201, 'Mine', 'me', 'Tom Okafor', true])
    const path = `/${plural}/${made.body.id}`
    const read = await tom('GET', path)
    expect([read.status, read.etag]).toEqual([200, '"1"'])
    expect((await tom('PATCH', path, { title: 'Renamed' })).status).toBe(428)
    const changed = await tom('PATCH', path, { title: 'Renamed' }, { 'if-match': read.etag })
    expect([changed.body.title, changed.etag]).toEqual(['Renamed', '"2"'])
    expect(
      (await tom('PATCH', path, { title: 'Too late' }, { 'if-match': read.etag })).status,
    ).toBe(412)
    expect(
      (await tom('GET', `/${plural}`)).body[plural].map((entry: { id: string }) => entry.id),
    ).toContain(made.body.id)
    expect(
      (await ida('GET', `/${plural}`)).body[plural].map((entry: { id: string }) => entry.id),
    ).not.toContain(made.body.id)
    expect((await tom('DELETE', path, undefined, { 'if-match': changed.etag })).status).toBe(204)
    expect((await tom('GET', path)).status).toBe(404)
  })

  it('once shared are read by everyone, changed by their owner and administrators alone, and the sharing is in the audit', async () => {
    const made = await tom('POST', `/${plural}`, {
      title: 'For all',
      content: content(),
      shared: 'everyone',
    })
    const path = `/${plural}/${made.body.id}`
    expect((await ida('GET', path)).body).toMatchObject({ title: 'For all', mayEdit: false })
    expect((await mara('GET', path)).body.mayEdit).toBe(true)
    const other = await served.signIn('Ilse Varga')
    expect((await other('PATCH', path, { title: 'Hers now' }, { 'if-match': '*' })).status).toBe(
      403,
    )
    expect(
      (await mara('PATCH', path, { description: 'When to use it.' }, { 'if-match': '*' })).body
        .description,
    ).toBe('When to use it.')
    const { acts } = (await mara('GET', '/audit')).body
    expect(
      acts.some(
        (act: { act: string; subject: string; by: string }) =>
          act.act === 'shared' && act.subject.endsWith(made.body.id) && act.by === 'Tom Okafor',
      ),
    ).toBe(true)
  })

  it('of a shape that means nothing are refused with the place', async () => {
    const { status, body } = await tom('POST', `/${plural}`, {
      title: 'x',
      content: { ...content(), colour: 'red' },
    })
    expect([status, body.errors[0].pointer]).toEqual([400, '/content/colour'])
    expect(
      (await tom('POST', `/${plural}`, { title: '   ', content: content() })).body.errors[0]
        .pointer,
    ).toBe('/title')
    expect((await tom('POST', `/${plural}`, { content: content() })).body.errors[0]).toMatchObject({
      pointer: '/title',
      message: 'title is missing.',
    })
  })
})

describe('what rests on what', () => {
  it('is told, and kept from being deleted beneath others', async () => {
    expect((await mara('GET', '/queries/qu_defects/usage')).body.usedBy).toEqual(
      expect.arrayContaining([{ kind: 'measure', id: 'me_defects', title: 'Open defects' }]),
    )
    expect((await mara('GET', '/measures/me_work/usage')).body.usedBy).toContainEqual({
      kind: 'dashboard',
      id: 'da_yard',
      title: 'Yard crew, week by week',
    })
    const refused = await mara('DELETE', '/queries/qu_defects', undefined, { 'if-match': '*' })
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      expect.stringContaining('the measure “Open defects”'),
    ])
  })
})

describe('a kept query', () => {
  it('with errors is not kept, and one whose name was lost is marked, not emptied', async () => {
    expect(
      (
        await tom('POST', '/queries', {
          title: 'x',
          content: { ...queryContent, filter: "status = 'Lost'" },
        })
      ).body.errors[0].message,
    ).toContain('There is no status “Lost”')
    expect(
      (
        await tom('POST', '/queries', {
          title: 'x',
          content: { ...queryContent, columns: ['lost'] },
        })
      ).body.errors[0].pointer,
    ).toBe('/content/columns')
    const { body } = await tom('POST', '/queries', {
      title: 'Free label',
      content: { ...queryContent, filter: "has_label('photo taken')" },
    })
    await run(
      served.database,
      `UPDATE query SET content = jsonb_set(content, '{filter}', '{"op":"has_label","args":["la_gone"]}') WHERE identity = '${body.id}'`,
    )
    const marked = (await tom('GET', `/queries/${body.id}`)).body
    expect([marked.text, marked.errors[0].message]).toEqual([
      '',
      'This query names a label that is no longer defined.',
    ])
    expect(
      (await tom('POST', '/items/search', { filter: marked.content.filter, kept: true })).status,
    ).toBe(400)
  })
})

describe('an arranged view', () => {
  const arrange = async (view: object, call = mara) =>
    await call('POST', '/views/arrange', { view })
  const total = async (filter: string, call = mara): Promise<number> =>
    (await call('POST', '/items/search', { filter, limit: 1 })).body.total

  it('as a list in groups counts as the items themselves do', async () => {
    const { body } = await arrange(listContent('qu_defects'))
    for (const group of body.groups)
      expect(
        await total(`type = 'Defect' AND status = '${group.shown.title}'`),
        group.shown.title,
      ).toBe(group.count)
    expect(body.groups.map((group: { shown: { mark: string } }) => group.shown.mark)).toEqual(
      [...body.groups.map((group: { shown: { mark: string } }) => group.shown.mark)].sort(
        (a, b) => ['idle', 'active', 'done'].indexOf(a) - ['idle', 'active', 'done'].indexOf(b),
      ),
    )
  })

  it('as a board comes whole in one answer: each column with its first cards, in the order of the view, at the version they are', async () => {
    const order = [{ by: 'changed', direction: 'down' }]
    const view = { ...boardContent('qu_yard'), order }
    const { body } = await mara('POST', '/views/arrange', { view, cards: 3 })
    const { properties } = (await served.worlds.now()).vocabulary
    for (const column of body.columns) {
      const { items } = (
        await mara('POST', '/items/search', {
          filter: columnFilter(
            body.filter,
            properties.get('status'),
            column.value,
            body.finishedBefore,
          ),
          kept: true,
          sort: '-changed',
          fields: cardFields(view.board).join(','),
          limit: 3,
        })
      ).body
      expect(column.cards, column.shown.title).toEqual(items)
      expect(column.cards).toHaveLength(Math.min(3, column.count))
      for (const card of column.cards) {
        const { etag } = (await mara('GET', `/items/${card.ref}`)).body
        expect(card.etag).toBe(etag)
      }
    }
  })

  it('as a board counts every answer once: in a column, elsewhere, or finished long ago', async () => {
    const { body } = await arrange({
      ...boardContent('qu_yard'),
      board: { ...boardContent('qu_yard').board, finishedWithin: 14 },
    })
    const sum = (list: { count: number }[]): number =>
      list.reduce((all, entry) => all + entry.count, 0)
    expect(sum(body.columns)).toBe(body.shown)
    expect(sum(body.columns) + sum(body.elsewhere) + body.finishedLongAgo).toBe(body.total)
    expect(body.total).toBe(
      (await mara('POST', '/items/search', { filter: body.filter, kept: true, limit: 1 })).body
        .total,
    )
    expect(
      body.elsewhere.map((entry: { shown: { title: string } }) => entry.shown.title),
    ).toContain('Awaiting surveyor')
  })

  it('by a person or an own field has a place for those without one', async () => {
    const { body } = await arrange(boardContent('qu_defects', 'assignee', [null]))
    expect(body.columns[0]).toMatchObject({
      value: null,
      shown: null,
      count: await total(
        "type = 'Defect' AND phase NOT IN ('done', 'dropped') AND assignee IS NULL",
      ),
    })
    const own = (await arrange(boardContent('qu_all', 'berth', ['op_berth01']))).body
    expect(own.columns[0].count).toBe(await total("berth = 'North Pier 1'"))
  })

  it('counts for each person only what they may see', async () => {
    const [hers, his] = [
      (await arrange(listContent('qu_all'))).body.total,
      (await arrange(listContent('qu_all'), tom)).body.total,
    ]
    expect(his).toBeLessThan(hers)
  })

  it.each([
    ['by a title', boardContent('qu_all', 'title', [])],
    ['by several values', boardContent('qu_all', 'labels', [])],
    ['by a day', boardContent('qu_all', 'due', [])],
    ['by what is no property', boardContent('qu_all', 'nothing', [])],
    ['without a board', { ...boardContent('qu_all'), board: null }],
  ])('%s is refused in words', async (_, view) => {
    const { status, body } = await arrange(view)
    expect([status, body.errors.length]).toEqual([400, 1])
  })
})

describe('a measure', () => {
  const evaluate = async (body: object, call = mara) =>
    await call('POST', '/measures/evaluate', body)

  it.each<[string, object, string]>([
    ['no measure and no figure', { filter: '' }, '/figure'],
    [
      'a figure of no number',
      { filter: '', figure: { kind: 'sum', field: 'title' } },
      '/figure/field',
    ],
    ['a figure of no field', { filter: '', figure: { kind: 'mean' } }, '/figure/field'],
    [
      'a span that ends before it begins',
      {
        filter: '',
        figure: { kind: 'count' },
        over: { from: '2026-02-01', to: '2026-01-01', step: 'day' },
      },
      '/over/to',
    ],
    [
      'a span of too many steps',
      {
        filter: '',
        figure: { kind: 'count' },
        over: { from: '2000-01-01', to: '2026-01-01', step: 'day' },
      },
      '/over',
    ],
    ['groups by text', { filter: '', figure: { kind: 'count' }, by: ['title'] }, '/by'],
    ['an unknown figure', { filter: '', figure: { kind: 'guess' } }, '/figure/kind'],
    ['a filter with an error', { filter: 'stauts = 1', figure: { kind: 'count' } }, '/filter'],
    ['a moment that is none', { filter: '', figure: { kind: 'count' }, asOf: 'then' }, '/as-of'],
  ])('with %s is refused, with its place', async (_, body, pointer) => {
    const answer = await evaluate(body)
    expect([answer.status, answer.body.errors[0].pointer]).toEqual([400, pointer])
  })

  it('of a private query is told to nobody else', async () => {
    const query = (await tom('POST', '/queries', { title: 'Private', content: queryContent })).body
      .id
    const measure = (
      await tom('POST', '/measures', {
        title: 'Private',
        content: { query, figure: { kind: 'count' }, unit: 'items', better: null, target: null },
      })
    ).body.id
    expect((await evaluate({ measure }, tom)).status).toBe(200)
    expect((await evaluate({ measure }, ida)).status).toBe(404)
  })

  it.each([
    ['median', 'estimate', {}],
    ['percentile', 'cost_of_parts', { p: 85 }],
    ['least', 'hours_lost', {}],
    ['greatest', 'hours_lost', {}],
    ['mean', 'estimate', {}],
    ['sum', 'remaining', {}],
  ])('%s of %s is what the items say', async (kind, field, more) => {
    const { body } = await evaluate({ filter: "type = 'Defect'", figure: { kind, field, ...more } })
    const items = (
      await mara('POST', '/items/search', {
        filter: `type = 'Defect' AND ${field} IS NOT NULL`,
        fields: field,
        limit: 1000,
      })
    ).body.items as Record<string, number>[]
    const values = items
      .map(
        (item) =>
          (item['fields'] as unknown as Record<string, number> | undefined)?.[field] ??
          item[field]!,
      )
      .sort((a, b) => a - b)
    const rank = (p: number): number => {
      const h = (values.length - 1) * p
      return (
        values[Math.floor(h)]! +
        (h - Math.floor(h)) * (values[Math.ceil(h)]! - values[Math.floor(h)]!)
      )
    }
    const sum = values.reduce((all, value) => all + value, 0)
    const expected = {
      median: rank(0.5),
      percentile: rank(0.85),
      least: values[0]!,
      greatest: values.at(-1)!,
      mean: sum / values.length,
      sum,
    }[kind]!
    expect(values.length).toBeGreaterThan(3)
    expect(body.total[0]).toBeCloseTo(expected, 6)
  })

  it('by status comes in the statuses’ order, with the empty group last', async () => {
    const { body } = await evaluate({ measure: 'me_work', by: ['priority'] })
    expect(
      body.groups.map(
        (group: { key: ({ title: string } | null)[] }) => group.key[0]?.title ?? null,
      ),
    ).toEqual([
      'Sailing stopped',
      'Sailing at risk',
      'Passenger nuisance',
      'When convenient',
      'Now',
      'Next',
      'Later',
      null,
    ])
  })
})
