import { aProject, aDefect as item } from './answers.ts'
import type { ItemAnswer } from '@bluestem/core/queries'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import ItemTable from '../src/parts/ItemTable.vue'
import ProjectsPage from '../src/work/ProjectsPage.vue'
import { serve, show } from './page.ts'

describe('the projects', () => {
  it('are told with how much is in them', async () => {
    serve({
      'GET /projects': {
        body: {
          projects: [aProject({ description: 'Repairs.', open: false, phases: [3, 4, 1200, 5] })],
        },
      },
    })
    const wrapper = await show(ProjectsPage)
    expect(wrapper.findAll('tbody td').map((cell) => cell.text())).toEqual([
      'YARD',
      'Fleet Yard',
      'Repairs. Members only.',
      'Everyone',
      '3',
      '4',
      '1,200',
      '7',
    ])
  })

  it('that are none say what would stand here', async () => {
    serve({ 'GET /projects': { body: { projects: [] } } })
    expect((await show(ProjectsPage)).text()).toContain('Here the projects would stand')
  })
})

describe('a list of items', () => {
  const items = (from: number, count: number): ItemAnswer[] =>
    Array.from({ length: count }, (_, index) => ({
      ref: `YARD/${from + index}`,
      type: item.type,
      title: `Item ${from + index}`,
      on_hold: false,
      status: item.status,
    }))
  const answering = (total: number) =>
    serve({
      'POST /items/search': ({ body }) => {
        const { offset = 0, limit = 100 } = body as { offset?: number; limit?: number }
        return {
          body: {
            items: items(offset + 1, Math.max(0, Math.min(limit, total - offset))),
            total,
            cannotTell: 2,
            next: null,
          },
        }
      },
    })
  const props = {
    segments: [{ key: 'all', filter: true }],
    columns: ['ref', 'title', 'status'],
    order: [{ by: 'changed', direction: 'down' }],
    label: 'Answers',
  }

  it('asks for one page and makes only the rows that are seen', async () => {
    const asked = answering(100_000)
    const wrapper = await show(ItemTable, { props })
    await vi.waitFor(() => expect(wrapper.findAll('.line').length).toBeGreaterThan(5))
    expect(asked[0]!.body).toMatchObject({
      filter: true,
      kept: true,
      sort: '-changed',
      limit: 100,
      offset: 0,
    })
    expect(wrapper.findAll('.line').length).toBeLessThan(80)
    expect(
      wrapper.attributes('aria-rowcount') ?? wrapper.get('[role=grid]').attributes('aria-rowcount'),
    ).toBe('100001')
    expect(wrapper.emitted('answered')?.[0]?.[0]).toMatchObject({ total: 100_000, cannotTell: 2 })
  })

  it('is walked by keyboard, and Enter opens the item', async () => {
    answering(40)
    const wrapper = await show(ItemTable, { props })
    await vi.waitFor(() => expect(wrapper.findAll('.line').length).toBeGreaterThan(5))
    const grid = wrapper.get('[role=grid]')
    await grid.trigger('keydown', { key: 'ArrowDown' })
    expect(wrapper.emitted('select')?.at(-1)?.[0]).toMatchObject({ ref: 'YARD/2' })
    await grid.trigger('keydown', { key: 'ArrowUp' })
    await grid.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(wrapper.router.currentRoute.value.path).toBe('/work/YARD/1')
  })

  it('is ordered by a column’s heading, and the other way by pressing it again', async () => {
    answering(3)
    const wrapper = await show(ItemTable, { props })
    await wrapper.get('button[aria-label="Order by Title"]').trigger('click')
    expect(wrapper.emitted('sort')?.[0]?.[0]).toEqual([
      { by: 'title', direction: 'up' },
      { by: 'changed', direction: 'down' },
    ])
    await wrapper.setProps({ order: [{ by: 'title', direction: 'up' }] })
    await wrapper.get('button[aria-label="Order by Title"]').trigger('click')
    expect(wrapper.emitted('sort')?.[1]?.[0]).toEqual([{ by: 'title', direction: 'down' }])
    expect(
      wrapper.findAll('[role=columnheader]').map((head) => head.attributes('aria-sort')),
    ).toEqual(['none', 'ascending', 'none'])
  })

  it('in groups shows each with its count, and folds it away', async () => {
    answering(2)
    const segments = [
      { key: 'a', title: 'Open', count: 2, filter: { a: 1 } },
      { key: 'b', title: 'In hand', count: 2, filter: { b: 1 } },
    ]
    const wrapper = await show(ItemTable, { props: { ...props, segments } })
    await vi.waitFor(() => expect(wrapper.findAll('.line').length).toBe(6))
    expect(wrapper.findAll('.heading').map((heading) => heading.text())).toEqual([
      '–Open 2',
      '–In hand 2',
    ])
    await wrapper.get('.turn').trigger('click')
    await vi.waitFor(() => expect(wrapper.findAll('.line').length).toBe(4))
  })

  it('says what went wrong, and asks again', async () => {
    let failing = true
    serve({
      'POST /items/search': () =>
        failing
          ? { status: 503, body: { detail: 'This question took longer than a minute.' } }
          : { body: { items: [], total: 0, cannotTell: 0, next: null } },
    })
    const wrapper = await show(ItemTable, { props })
    await flushPromises()
    expect(wrapper.text()).toContain('This question took longer than a minute.')
    failing = false
    await wrapper
      .findAll('button')
      .find((button) => button.text() === 'Try again')!
      .trigger('click')
    await flushPromises()
    expect(wrapper.text()).toContain('Nothing answers.')
  })
})
