import { type SavedMeasure, widgetKinds } from '@bluestem/core/dashboards'
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import AddWidget from '../src/dashboards/AddWidget.vue'
import WidgetBody from '../src/dashboards/WidgetBody.vue'
import MakeMeasure from '../src/dashboards/MakeMeasure.vue'
import Sparkline from '../src/dashboards/Sparkline.vue'
import { endOfStep, figureWords, spanOf } from '../src/dashboards/measures.ts'
import { widgetBodies } from '../src/dashboards/widgetBodies.ts'
import { filterCameFor, itemsBehind, itemsNamed } from '../src/queries/itemsBehind.ts'
import { openDefects as query, aCard as card } from './answers.ts'
import { serve, show, choose, offeredBy } from './page.ts'

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
})

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
