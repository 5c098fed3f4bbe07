import type { TreeRow } from '@bluestem/core/tree'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { anItem, someOffers } from './answers.ts'
import { press, serve, show } from './page.ts'
import TreePage from '../src/tree/TreePage.vue'

const row = (ref: string, parent: string | null, parts: Partial<TreeRow> = {}): TreeRow => ({
  ref,
  parent,
  title: `Title of ${ref}`,
  type: { id: 'ty_job', title: 'Job', mark: 'Jo2' },
  status: { id: 'st_hand', title: 'In hand', mark: 'active' },
  assignee: null,
  onHold: false,
  waits: [],
  directly: 0,
  below: { items: 0, done: 0, estimates: [] },
  ...parts,
})
const whole = {
  rows: [
    row('YARD/1', null, {
      directly: 2,
      below: { items: 4, done: 1, estimates: [{ unit: 'hours', all: 12, done: 3 }] },
    }),
    row('YARD/2', null, { onHold: true }),
    row('YARD/3', 'YARD/1'),
    row('YARD/4', 'YARD/1', { waits: [{ id: 'SAFE/9', title: 'waits for' }] }),
  ],
  folded: 7,
  more: false,
}
const answers = {
  'GET /projects/YARD/tree?depth=2&finished=folded': { body: whole },
  'GET /projects/YARD/tree?depth=3&finished=folded': { body: whole },
  'GET /projects/YARD/offers': { body: someOffers() },
}
const open = async (): Promise<Awaited<ReturnType<typeof show>>> =>
  await show(TreePage, { path: '/work/YARD/tree' })
const refs = (wrapper: Awaited<ReturnType<typeof show>>): string[] =>
  wrapper.findAll('[data-ref]').map((node) => node.attributes('data-ref')!)
async function key(wrapper: Awaited<ReturnType<typeof show>>, options: object): Promise<void> {
  await wrapper.get('[role=treegrid]').trigger('keydown', options)
  await flushPromises()
}

describe('the tree of a project', () => {
  it('shows what stands below what, how much of it is done, and what holds it up', async () => {
    serve(answers)
    const wrapper = await open()
    expect(refs(wrapper)).toEqual(['YARD/1', 'YARD/3', 'YARD/4', 'YARD/2'])
    const text = wrapper.text()
    for (const words of [
      '1/4',
      '3 / 12 hours',
      'waits for SAFE/9',
      'on hold',
      '14 days ago: 7, folded',
    ])
      expect(text.replace(/\s+/g, ' ')).toContain(words)
    const second = wrapper.get('[data-ref="YARD/4"]').attributes()
    expect([second['aria-level'], second['aria-posinset'], second['aria-setsize']]).toEqual([
      '2',
      '2',
      '2',
    ])
  })

  it('unfolds everything, as deep as it goes, and folds it again', async () => {
    const asked = serve({
      ...answers,
      'GET /projects/YARD/tree?depth=5&finished=folded': {
        body: { ...whole, rows: [...whole.rows, row('YARD/5', 'YARD/3')] },
      },
    })
    const wrapper = await open()
    await key(wrapper, { key: 'ArrowLeft' })
    await press(wrapper, 'Unfold all')
    expect(asked.at(-1)!.path).toContain('depth=5')
    expect(refs(wrapper)).toEqual(['YARD/1', 'YARD/3', 'YARD/4', 'YARD/2'])
    await press(wrapper, 'Fold all')
    expect(refs(wrapper)).toEqual(['YARD/1', 'YARD/2'])
  })

  it('is only looked at as of a day, which stands in the address', async () => {
    const asked = serve({
      'GET /projects/YARD/tree?depth=2&finished=folded&as-of=2026-03-01': { body: whole },
      'GET /projects/YARD/offers': { body: someOffers() },
    })
    const wrapper = await show(TreePage, { path: '/work/YARD/tree?as-of=2026-03-01' })
    expect(refs(wrapper)).toHaveLength(4)
    expect(wrapper.get('[data-ref="YARD/1"]').attributes('draggable')).toBe('false')
    await key(wrapper, { key: 'ArrowDown', altKey: true })
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([])
    expect(wrapper.text()).not.toContain('Alt and the arrows')
  })

  it('folds and unfolds by arrows', async () => {
    serve(answers)
    const wrapper = await open()
    await key(wrapper, { key: 'ArrowLeft' })
    expect(refs(wrapper)).toEqual(['YARD/1', 'YARD/2'])
    await key(wrapper, { key: 'ArrowRight' })
    expect(refs(wrapper)).toHaveLength(4)
  })

  it('moves a branch among those beside it, and back again', async () => {
    const asked = serve({ ...answers, 'PATCH /items/YARD/1': { body: anItem() } })
    const wrapper = await open()
    await key(wrapper, { key: 'ArrowDown', altKey: true })
    const sent = (): unknown[] =>
      asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body)
    expect(sent()).toEqual([{ position: { after: 'YARD/2' } }])
    await key(wrapper, { key: 'ArrowUp', altKey: true })
    expect(sent()).toHaveLength(1)
  })

  it('shows what is finished when asked to, and says where there is nothing', async () => {
    serve({
      ...answers,
      'GET /projects/YARD/tree?depth=3&finished=shown': {
        body: { rows: [], folded: 0, more: false },
      },
    })
    const wrapper = await open()
    await press(wrapper, 'Show finished too')
    expect(wrapper.text()).toContain('There is none yet')
  })

  it('is a viewer’s to read only', async () => {
    const asked = serve(answers)
    const wrapper = await show(TreePage, { path: '/work/YARD/tree', role: 'viewer' })
    await key(wrapper, { key: 'ArrowDown', altKey: true })
    await key(wrapper, { key: 'b' })
    expect(asked.every(({ method }) => method === 'GET')).toBe(true)
    expect(wrapper.find('form').exists()).toBe(false)
  })
})
