import type { ShownChoice } from '@bluestem/core/schema'
import { anItem, someOffers } from './answers.ts'
import { type SavedMeasure, widgetKinds } from '@bluestem/core/dashboards'
import type { ItemAnswer, SavedQuery } from '@bluestem/core/queries'
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import AddWidget from '../src/dashboards/AddWidget.vue'
import WidgetBody from '../src/dashboards/WidgetBody.vue'
import MakeMeasure from '../src/dashboards/MakeMeasure.vue'
import Sparkline from '../src/dashboards/Sparkline.vue'
import { endOfStep, figureWords, spanOf } from '../src/dashboards/measures.ts'
import { widgetBodies } from '../src/dashboards/widgetBodies.ts'
import { filterCameFor, itemsBehind, itemsNamed } from '../src/queries/itemsBehind.ts'
import LibraryPage from '../src/queries/LibraryPage.vue'
import QuerySentence from '../src/queries/QuerySentence.vue'
import { makeEditor } from '../src/queries/editor.ts'
import Arrange from '../src/views/Arrange.vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useNotes } from '../src/parts/notes.store.ts'
import Board from '../src/views/Board.vue'
import BoardCard from '../src/views/BoardCard.vue'
import { serve, show, SilentStream, vocabulary, choose, offeredBy } from './page.ts'

/** What was drawn, for nothing is drawn on a canvas here. */
const drawn: { data: { datasets: readonly { data: unknown; spanGaps: unknown }[] } }[] = []
vi.mock('../src/dashboards/charts.ts', () => ({
  Chart: class {
    constructor(_: unknown, configuration: (typeof drawn)[number]) {
      drawn.push(configuration)
    }
    destroy(): void {}
  },
}))

beforeEach(() => {
  drawn.length = 0
  vi.stubGlobal('EventSource', SilentStream)
})
afterEach(() => {
  document.body.innerHTML = ''
  vi.unstubAllGlobals()
})

const query: SavedQuery = {
  id: 'qu_1',
  title: 'Open defects',
  description: '',
  shared: 'everyone',
  owner: { id: 'pe_tom', title: 'Tom Okafor' },
  changedAt: '2026-11-20T08:00:00Z',
  mayEdit: true,
  version: 1,
  text: "type = 'Defect'",
  errors: [],
  sentence: [
    { depth: 0, lead: 'Items', parts: [{ text: 'of type ' }, { text: 'Defect', value: true }] },
  ],
  content: { filter: true, columns: ['ref'], order: [{ by: 'due', direction: 'down' }] },
}
const measure: SavedMeasure = {
  id: 'me_1',
  title: 'Open defects',
  description: '',
  shared: 'everyone',
  owner: query.owner,
  changedAt: '',
  mayEdit: true,
  version: 1,
  content: { query: 'qu_1', figure: { kind: 'count' }, unit: 'items', better: 'less', target: 120 },
}
const card = (ref: string, more: object = {}): ItemAnswer => ({
  ref,
  title: `Card ${ref}`,
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  on_hold: false,
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  priority: { id: 'pi_stop', title: 'Sailing stopped', mark: 1 },
  assignee: null,
  ...more,
})

describe('the library of queries', () => {
  it('tells what each asks as a sentence, and marks one that no longer makes sense', async () => {
    serve({
      'GET /queries': {
        body: {
          queries: [
            query,
            {
              ...query,
              id: 'qu_2',
              title: 'Lost',
              errors: [
                { from: 0, to: 0, message: 'This query names a status that is no longer defined.' },
              ],
            },
          ],
        },
      },
    })
    const wrapper = await show(LibraryPage)
    const rows = wrapper.findAll('tbody tr').map((row) => row.findAll('td')[1]!.text())
    expect(rows).toEqual([
      'Items of type Defect',
      'This query names a status that is no longer defined.',
    ])
    await wrapper.get('input').setValue('nobody asks this')
    expect(wrapper.text()).toContain('No query has “nobody asks this”')
  })

  it('reads a sentence a clause a line, with its values marked', async () => {
    const wrapper = await show(QuerySentence, {
      props: {
        lines: [...query.sentence, { depth: 1, lead: 'or', parts: [{ text: 'due is empty' }] }],
      },
    })
    expect(wrapper.findAll('li').map((line) => line.text())).toEqual([
      'Itemsof type Defect',
      'ordue is empty',
    ])
    expect(wrapper.findAll('.value').map((value) => value.text())).toEqual(['Defect'])
    expect(wrapper.findAll('li')[1]!.classes()).toContain('d1')
  })
})

describe('the text of a query', () => {
  it('tells what was typed, takes what is set, and marks errors in their place', async () => {
    const host = document.body.appendChild(document.createElement('div'))
    let typed = ''
    const editor = makeEditor(
      host,
      "status = 'Open'",
      vocabulary,
      'Everything.',
      (text) => {
        typed = text
      },
      () => undefined,
    )
    expect(host.querySelector('.cm-content')!.textContent).toBe("status = 'Open'")
    expect(host.querySelector('.cm-content')!.getAttribute('aria-label')).toBe('The query as text')
    const marked = [...host.querySelectorAll('.cm-line [class^=query-]')]
    expect(marked.map((one) => [one.className, one.textContent])).toEqual([
      ['query-name', 'status'],
      ['query-sign', '='],
      ['query-value', "'Open'"],
    ])
    editor.set('tier = 1')
    expect(typed).toBe('tier = 1')
    editor.mark([{ from: 0, to: 4, message: 'There is no property “tire”.', nearest: 'tier' }])
    await flushPromises()
    expect(host.querySelector('.cm-lintRange-error')!.textContent).toBe('tier')
    editor.close()
    expect(host.textContent).toBe('')
  })
})

describe('figures', () => {
  const now = new Date('2026-11-25T10:00:00Z')
  it.each([
    [['2026-11-09', '2026-11-16', '2026-11-23'], 0, '2026-11-15'],
    [['2026-11-09', '2026-11-16', '2026-11-23'], 2, '2026-11-25'],
    [['2026-11-23', '2026-11-30'], 0, '2026-11-25'],
  ])('of the steps %j, number %i was told for %s', (steps, index, day) => {
    expect(endOfStep(steps, index, now)).toBe(day)
  })

  it('have words, spans and an address of the items behind them', () => {
    const title = (): string => 'Estimate'
    expect(figureWords({ kind: 'sum', field: 'estimate' }, title)).toBe('sum of estimate')
    expect(figureWords({ kind: 'percentile', field: 'estimate', p: 85 }, title)).toBe(
      'percentile 85 of estimate',
    )
    expect(figureWords({ kind: 'cycle_time' }, title)).toBe('cycle time')
    expect(spanOf(30, now)).toEqual({ from: '2026-10-26', to: '2026-11-25' })
    expect(itemsBehind({ op: '=', args: [] }, '2026-11-15')).toBe(
      '/queries/new?filter=%7B%22op%22%3A%22%3D%22%2C%22args%22%3A%5B%5D%7D&as-of=2026-11-15',
    )
  })

  it('the names of many items travel beside the address, of few in it', () => {
    expect(itemsNamed(['YARD/1'])).toContain('/queries/new?filter=')
    const many = Array.from({ length: 301 }, (_, index) => `YARD/${index}`)
    const place = itemsNamed(many) as { path: string; state: { filter: string } }
    expect(place.path).toBe('/queries/new')
    window.history.replaceState(place.state, '')
    expect(JSON.parse(filterCameFor({})!)).toEqual({ op: 'in', args: [{ property: 'ref' }, many] })
    expect(filterCameFor({ filter: 'true' })).toBe('true')
    window.history.replaceState(null, '')
    expect(filterCameFor({})).toBeUndefined()
  })

  it('have a look for every kind of widget', () => {
    expect(Object.keys(widgetBodies).sort()).toEqual([...widgetKinds].sort())
  })

  it('in small draw their course, over what is not known', async () => {
    const wrapper = await show(Sparkline, {
      props: { values: [1, 3, 2, null], label: 'Open defects', tone: 'leaf' },
    })
    await vi.waitUntil(() => drawn.length > 0)
    expect(drawn[0]!.data.datasets).toMatchObject([{ data: [1, 3, 2, null], spanGaps: true }])
    const canvas = wrapper.get('canvas').attributes()
    expect(canvas).toMatchObject({ role: 'img', 'aria-label': 'Open defects' })
  })

  it('tell whether they meet their target, and how they moved', async () => {
    serve({
      'POST /measures/evaluate': ({ body }) => ({
        body: (body as { over?: object }).over
          ? {
              unit: 'items',
              by: [],
              steps: ['a', 'b'],
              groups: [],
              total: [122, 131],
              method: 'course',
              filter: true,
            }
          : {
              unit: 'items',
              by: [],
              steps: ['b'],
              groups: [],
              total: [131],
              method: 'present',
              filter: true,
            },
      }),
    })
    const widget = {
      id: 'a',
      kind: 'figure',
      title: 'Open defects',
      measure: 'me_1',
      span: { days: 30, step: 'week' },
      x: 0,
      y: 0,
      w: 3,
      h: 2,
    }
    const wrapper = await show(WidgetBody, { props: { widget, measure, query } })
    expect(wrapper.get('.big').text()).toBe('131')
    expect(wrapper.get('.big').classes()).toContain('warn')
    expect(wrapper.get('.under').text()).toBe('9 more than the week before · target: at most 120')
    expect(wrapper.get('.big').attributes('href')).toContain('/queries/new?filter=true')
  })

  it('by a field are bars, each of which opens its items', async () => {
    serve({
      'POST /measures/evaluate': {
        body: {
          unit: 'items',
          by: ['status'],
          steps: ['a'],
          groups: [
            { key: [{ id: 'st_open', title: 'Open' }], values: [8] },
            { key: [null], values: [2] },
          ],
          total: [10],
          method: 'present',
          filter: true,
        },
      },
    })
    const widget = {
      id: 'a',
      kind: 'bars',
      title: 'By status',
      measure: 'me_1',
      by: 'status',
      x: 0,
      y: 0,
      w: 3,
      h: 2,
    }
    const wrapper = await show(WidgetBody, { props: { widget, measure, query } })
    expect(wrapper.findAll('.name').map((name) => name.text())).toEqual([
      'Open',
      'no status',
      'all',
    ])
    expect(wrapper.findAll('.bar').map((bar) => bar.attributes('aria-label'))).toEqual([
      'Open: 8 items; open the items',
      'none: 2 items; open the items',
    ])
    expect(decodeURIComponent(wrapper.findAll('.bar')[1]!.attributes('href')!)).toContain(
      '{"op":"isNull","args":[{"property":"status"}]}',
    )
  })

  it('whose measure may not be seen say so instead of staying blank', async () => {
    const widget = {
      id: 'a',
      kind: 'figure',
      title: 'x',
      measure: 'me_lost',
      x: 0,
      y: 0,
      w: 3,
      h: 2,
    }
    expect(
      (await show(WidgetBody, { props: { widget, measure: undefined, query: undefined } })).text(),
    ).toBe('The measure behind this figure may not be seen by you, or was deleted.')
  })

  it('are listed as answers in their query’s order', async () => {
    const asked = serve({
      'POST /items/search': {
        body: { items: [card('YARD/1')], total: 12, cannotTell: 0, next: null },
      },
    })
    const widget = { id: 'a', kind: 'list', title: 'Late', query: 'qu_1', x: 0, y: 0, w: 3, h: 2 }
    const wrapper = await show(WidgetBody, { props: { widget, measure: undefined, query } })
    expect(wrapper.text()).toContain('12 answers')
    expect(asked[0]!.body).toMatchObject({ filter: true, kept: true, sort: '-due' })
  })
})

describe('adding a widget', () => {
  it('asks only for what its kind needs', async () => {
    const wrapper = await show(AddWidget, { props: { measures: [measure], queries: [query] } })
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('add')?.[0]?.[0]).toEqual({
      kind: 'figure',
      title: 'Open defects',
      w: 3,
      h: 2,
      measure: 'me_1',
      span: { days: 182, step: 'week' },
    })
    await choose(wrapper, 'It shows', 'bars by a field')
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('add')?.[1]?.[0]).toMatchObject({
      kind: 'bars',
      by: 'status',
      measure: 'me_1',
    })
    await choose(wrapper, 'It shows', 'a list of answers')
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('add')?.[2]?.[0]).toEqual({
      kind: 'list',
      title: 'Open defects',
      w: 6,
      h: 4,
      query: 'qu_1',
    })
  })
})

describe('naming a measure', () => {
  it('asks for a field only where a figure is of one', async () => {
    const asked = serve({ 'POST /measures': { status: 201, body: measure } })
    const wrapper = await show(MakeMeasure, { props: { queries: [query] } })
    await wrapper.get('input[type=text]').setValue('Hours on the slip')
    expect(wrapper.text()).not.toContain('Field')
    await choose(wrapper, 'It tells', 'the sum of')
    expect(await offeredBy(wrapper, 'Field')).toContain('Cost of parts')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked[0]!.body).toMatchObject({
      title: 'Hours on the slip',
      content: {
        query: 'qu_1',
        figure: { kind: 'sum', field: 'estimate' },
        better: null,
        target: null,
      },
    })
    expect(wrapper.emitted('made')).toHaveLength(1)
  })
})

const view = {
  query: 'qu_1',
  kind: 'board',
  columns: [],
  order: [{ by: 'rung', direction: 'up' }],
  group: null,
  board: {
    by: 'status',
    columns: ['st_open', 'st_hand', 'st_off'],
    cards: ['priority', 'assignee'],
    finishedWithin: 14,
  },
}
const stand = (id: string, title: string, mark: string, count: number) => ({
  value: id,
  count,
  shown: { id, title, mark },
})
const arranged = {
  filter: true,
  total: 5,
  cannotTell: 0,
  shown: 3,
  finishedLongAgo: 0,
  finishedBefore: null,
  columns: [
    {
      ...stand('st_open', 'Open', 'idle', 2),
      cards: [card('YARD/1', { etag: '"7"' }), card('YARD/2')],
    },
    { ...stand('st_hand', 'In hand', 'active', 1), cards: [] },
    { ...stand('st_off', 'Signed off', 'done', 0), cards: [] },
  ],
  elsewhere: [stand('st_wait', 'Awaiting surveyor', 'active', 2)],
}

describe('a card', () => {
  it('shows its mark, its ref, its title and the chosen fields that hold something', async () => {
    const wrapper = await show(BoardCard, {
      props: {
        item: card('YARD/7', { labels: [], due: '2026-12-08' }),
        fields: ['priority', 'assignee', 'labels', 'due'],
        by: 'status',
      },
    })
    expect(wrapper.text()).toBe('DeYARD/71—Card YARD/78 Dec')
    expect(wrapper.attributes('aria-label')).toBe('YARD/7 Card YARD/7')
  })

  it('on hold says so in words, not by its hatched corner alone', async () => {
    const wrapper = await show(BoardCard, {
      props: {
        item: card('YARD/7', { on_hold: true, hold_reason: 'no calm day' }),
        fields: [],
        by: 'status',
      },
    })
    expect(wrapper.classes()).toContain('hold')
    expect(wrapper.text()).toContain('on hold: no calm day')
    expect(wrapper.attributes('aria-label')).toContain('on hold')
  })
})

const offered = (id: string, statuses: readonly ShownChoice[], moves: readonly string[] = []) => ({
  id,
  title: id,
  mark: 'De1',
  description: '',
  start: null,
  statuses,
  moves,
  below: [],
  item: [],
  make: [],
})
const shownIn = arranged.columns.map((one) => one.shown)
const offersOfYard = {
  body: someOffers({ types: [offered('ty_defect', shownIn, ['st_open:st_off'])] }),
}

describe('a board', () => {
  const answers = () =>
    serve({
      'GET /projects/YARD/offers': offersOfYard,
      'PATCH /items/YARD/1': { body: anItem({ etag: '"8"' }) },
    })

  it('has a column for each value chosen, with its count, and ends in what stands elsewhere', async () => {
    answers()
    const wrapper = await show(Board, { props: { content: view, arranged, mayEdit: true } })
    expect(wrapper.findAll('.column header').map((head) => head.text())).toEqual([
      'Open, idle2',
      'In hand, active1',
      'Signed off, done0',
      'elsewhere',
    ])
    expect(wrapper.get('[data-elsewhere=st_wait]').text()).toContain('Awaiting surveyor')
    expect(wrapper.findAll('[data-card]').map((one) => one.attributes('data-card'))).toEqual([
      'YARD/1',
      'YARD/2',
    ])
  })

  it('moves a card by keyboard to the next column its flow allows', async () => {
    const asked = answers()
    const wrapper = await show(Board, { props: { content: view, arranged, mayEdit: true } })
    await wrapper
      .get('[data-card="YARD/1"]')
      .trigger('keydown', { key: 'ArrowRight', altKey: true })
    await flushPromises()
    expect(asked.find((one) => one.method === 'PATCH')).toMatchObject({
      path: '/items/YARD/1',
      body: { status: 'st_off' },
      headers: { 'If-Match': '"7"' },
    })
    expect(wrapper.emitted('moved')).toHaveLength(1)
  })

  it('shows a moved card where it went at once, and moves it back from there', async () => {
    const asked = answers()
    const wrapper = await show(Board, { props: { content: view, arranged, mayEdit: true } })
    const told = vi.spyOn(useNotes(), 'show')
    await wrapper
      .get('[data-card="YARD/1"]')
      .trigger('keydown', { key: 'ArrowRight', altKey: true })
    await flushPromises()
    expect(wrapper.get('[data-value=st_off]').text()).toContain('YARD/1')
    expect(wrapper.get('[data-value=st_open]').text()).not.toContain('YARD/1')
    const [, , undo] = told.mock.calls.at(-1)!
    await undo!.run()
    await flushPromises()
    expect(asked.filter((one) => one.method === 'PATCH').at(-1)).toMatchObject({
      body: { status: 'st_open' },
      headers: { 'If-Match': '"8"' },
    })
    expect(wrapper.get('[data-value=st_open]').text()).toContain('YARD/1')
  })

  it('tells who was faster, and what they changed', async () => {
    serve({
      'GET /projects/YARD/offers': offersOfYard,
      'GET /items/YARD/1': {
        body: anItem({ status: { id: 'st_hand', title: 'In hand', mark: 'active' } }),
      },
      'PATCH /items/YARD/1': {
        status: 412,
        body: {
          detail: 'Somebody changed this since you read it.',
          changed: [
            {
              by: { title: 'Ilse Varga' },
              words: [
                [
                  { text: 'moved it from ' },
                  { text: 'Open', value: true },
                  { text: ' to ' },
                  { text: 'In hand', value: true },
                ],
              ],
            },
          ],
        },
      },
    })
    const wrapper = await show(Board, { props: { content: view, arranged, mayEdit: true } })
    await wrapper
      .get('[data-card="YARD/1"]')
      .trigger('keydown', { key: 'ArrowRight', altKey: true })
    await flushPromises()
    expect(wrapper.get('[aria-live=assertive]').text()).toBe(
      'YARD/1 stays where it is: Ilse Varga moved it from Open to In hand.',
    )
    expect(wrapper.get('[data-value=st_open]').text()).toContain('YARD/1')
    expect(wrapper.emitted('moved')).toHaveLength(1)
  })

  it('leaves a card in hand alone while others change the board, and shows what came when it is put down', async () => {
    answers()
    const wrapper = await show(Board, { props: { content: view, arranged, mayEdit: true } })
    const column = wrapper.getComponent(VueDraggable)
    column.vm.$emit('start', { oldIndex: 0 })
    await flushPromises()
    const [open, hand, off] = arranged.columns
    const later = { ...arranged, columns: [{ ...open!, cards: [card('YARD/9')] }, hand!, off!] }
    await wrapper.setProps({ arranged: later })
    expect(wrapper.find('[data-card="YARD/9"]').exists()).toBe(false)
    const element = column.element as HTMLElement
    column.vm.$emit('end', { from: element, to: element })
    await flushPromises()
    expect(wrapper.find('[data-card="YARD/9"]').exists()).toBe(true)
  })

  it('says in words why a card cannot go further', async () => {
    const asked = answers()
    const wrapper = await show(Board, {
      props: {
        content: view,
        arranged: { ...arranged, columns: arranged.columns.slice(0, 2) },
        mayEdit: true,
      },
    })
    await wrapper
      .get('[data-card="YARD/1"]')
      .trigger('keydown', { key: 'ArrowRight', altKey: true })
    await flushPromises()
    expect(wrapper.get('[aria-live=assertive]').text()).toBe(
      'YARD/1 stays where it is. Not from Open. It may go to Signed off.',
    )
    expect(asked.some((one) => one.method === 'PATCH')).toBe(false)
  })
})

describe('arranging a view', () => {
  it('makes a board of the statuses its answers can stand in', async () => {
    // Its answers lie in one project; the flow of another project has nothing to do with it.
    const groups: Record<string, string> = {
      type: 'ty_defect',
      project: 'pr_yard',
      status: 'st_open',
    }
    serve({
      'POST /views/arrange': ({ body }) => ({
        body: {
          query: { id: 'qu_1', title: 'Open defects' },
          filter: true,
          cannotTell: 0,
          total: 1,
          groups: [
            {
              value: groups[(body as { view: { group: string } }).view.group],
              count: 1,
              shown: null,
            },
          ],
        },
      }),
      'GET /projects/YARD/offers': {
        body: someOffers({
          types: [
            offered('ty_defect', [
              { id: 'st_open', title: 'Open', mark: 'idle' },
              { id: 'st_off', title: 'Signed off', mark: 'done' },
            ]),
            offered('ty_job', [{ id: 'st_hand', title: 'In hand', mark: 'active' }]),
          ],
        }),
      },
    })
    const list = {
      query: 'qu_1',
      kind: 'list',
      columns: ['ref'],
      order: [],
      group: null,
      board: null,
    }
    const wrapper = await show(Arrange, { props: { modelValue: list, queries: [query] } })
    await choose(wrapper, 'As a', 'board')
    await flushPromises()
    expect((wrapper.emitted('update:modelValue')?.at(-1)?.[0] as typeof view).board).toEqual({
      by: 'status',
      columns: ['st_open', 'st_off'],
      cards: ['priority', 'assignee'],
      finishedWithin: 30,
    })
  })

  it('groups a list by a field with a list of values', async () => {
    const list = {
      query: 'qu_1',
      kind: 'list',
      columns: ['ref'],
      order: [],
      group: null,
      board: null,
    }
    const wrapper = await show(Arrange, { props: { modelValue: list, queries: [query] } })
    const offered = await offeredBy(wrapper, 'Grouped by')
    expect(offered).toEqual(
      expect.arrayContaining(['nothing', 'Status', 'Assignee', 'Safety relevant']),
    )
    expect(offered).not.toContain('Title')
  })
})
