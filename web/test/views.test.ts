import type { ShownChoice } from '@bluestem/core/schema'
import { anItem, someOffers, openDefects as query, aCard as card } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import Arrange from '../src/views/Arrange.vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useNotes } from '../src/parts/notes.store.ts'
import Board from '../src/views/Board.vue'
import BoardCard from '../src/views/BoardCard.vue'
import { serve, show, choose, offeredBy } from './page.ts'

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
const shownIn = arranged.columns.map((column) => column.shown)
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
    expect(wrapper.findAll('[data-card]').map((node) => node.attributes('data-card'))).toEqual([
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
    expect(asked.find((request) => request.method === 'PATCH')).toMatchObject({
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
    expect(asked.filter((request) => request.method === 'PATCH').at(-1)).toMatchObject({
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
    expect(asked.some((request) => request.method === 'PATCH')).toBe(false)
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
