import type { BulkAnswer } from '@bluestem/core/bulk'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import ItemTable from '../src/parts/ItemTable.vue'
import {
  allChosen,
  type Chosen,
  choosing,
  countChosen,
  isChosen,
  noneChosen,
} from '../src/parts/chosen.ts'
import BinPage from '../src/work/BinPage.vue'
import ChangeMany from '../src/work/ChangeMany.vue'
import ChangesPage from '../src/work/ChangesPage.vue'
import ManyBar from '../src/work/ManyBar.vue'
import { itemsOf, outcomeWords } from '../src/work/many.ts'
import { bulkChangeOf, type Part } from '../src/parts/manyParts.ts'
import { choose, control, press, rows, serve, show, vocabulary } from './page.ts'

const bulk = (parts: Partial<BulkAnswer> = {}): BulkAnswer => ({
  id: 'bu_1',
  words: ['Status becomes “In hand”'],
  by: 'Tom Okafor',
  at: '2026-11-25T09:00:00Z',
  state: 'done',
  undoes: null,
  undoable: true,
  done: 3,
  takenBack: 0,
  total: 3,
  changed: 2,
  same: 0,
  refused: [{ message: 'Nothing leads on from there.', count: 1, refs: ['YARD/3'] }],
  ...parts,
})

describe('what is chosen in a list', () => {
  const cases: readonly [string, Chosen, readonly string[], number][] = [
    ['nothing at first', noneChosen, [], 0],
    ['some by their refs', choosing(noneChosen, ['a', 'b'], true), ['a', 'b'], 2],
    [
      'without one that is left out',
      choosing(choosing(noneChosen, ['a', 'b'], true), ['a'], false),
      ['b'],
      1,
    ],
    ['all answers', allChosen, ['a', 'b', 'c'], 10],
    ['all but some', choosing(allChosen, ['b'], false), ['a', 'c'], 9],
    [
      'all but some that are taken in again',
      choosing(choosing(allChosen, ['b'], false), ['b'], true),
      ['a', 'b', 'c'],
      10,
    ],
  ]
  it.each(cases)('%s', (_, chosen, taken, count) => {
    expect(['a', 'b', 'c'].filter((ref) => isChosen(chosen, ref))).toEqual(taken)
    expect(countChosen(chosen, 10)).toBe(count)
  })

  it('is told as refs, or as the question with what is left out', () => {
    expect(itemsOf(choosing(noneChosen, ['a'], true), true)).toEqual({ refs: ['a'] })
    expect(itemsOf(choosing(allChosen, ['b'], false), { op: 'x' })).toEqual({
      filter: { op: 'x' },
      kept: true,
      except: ['b'],
    })
  })

  const list = {
    segments: [{ key: 'all', filter: true }],
    columns: ['ref', 'title'],
    order: [],
    label: 'Items',
  }
  const answer = {
    items: Array.from({ length: 5 }, (_, index) => ({
      ref: `YARD/${index + 1}`,
      title: `Item ${index + 1}`,
      type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
      on_hold: false,
    })),
    total: 5,
    cannotTell: 0,
    next: null,
  }

  it('is taken by Space, with Shift on the way, all with Ctrl, and left with Escape', async () => {
    serve({ 'POST /items/search': { body: answer } })
    const wrapper = await show(ItemTable, { props: { ...list, chosen: noneChosen } })
    await vi.waitFor(() => expect(wrapper.findAll('.line').length).toBe(5))
    const grid = wrapper.get('[role=grid]')
    const key = async (pressed: object): Promise<Chosen> => {
      await grid.trigger('keydown', pressed)
      await flushPromises()
      const chosen = wrapper.emitted('update:chosen')!.at(-1)![0] as Chosen
      await wrapper.setProps({ chosen })
      return chosen
    }
    expect([...(await key({ key: ' ' })).refs]).toEqual(['YARD/1'])
    expect([...(await key({ key: 'ArrowDown', shiftKey: true })).refs]).toEqual([
      'YARD/1',
      'YARD/2',
    ])
    expect([...(await key({ key: ' ' })).refs]).toEqual(['YARD/1'])
    expect(await key({ key: 'a', ctrlKey: true })).toEqual(allChosen)
    expect(wrapper.findAll('.line.chosen')).toHaveLength(5)
    expect(await key({ key: 'Escape' })).toEqual(noneChosen)
    await wrapper.findAll('.tick')[2]!.trigger('click')
    await wrapper.setProps({ chosen: wrapper.emitted('update:chosen')!.at(-1)![0] })
    await wrapper.findAll('.tick')[4]!.trigger('click', { shiftKey: true })
    await flushPromises()
    const chosen = wrapper.emitted('update:chosen')!.at(-1)![0] as Chosen
    expect([...chosen.refs].sort()).toEqual(['YARD/2', 'YARD/3', 'YARD/4'])
  })

  it('offers what can be done with it, and nothing while nothing is chosen', async () => {
    const wrapper = await show(ManyBar, { props: { filter: true, total: 5, chosen: noneChosen } })
    expect(wrapper.text()).toBe('')
    await wrapper.setProps({ chosen: choosing(noneChosen, ['YARD/1'], true) })
    expect(wrapper.text()).toContain('1 item chosen')
    await press(wrapper, 'choose all 5 answers')
    expect(wrapper.emitted('update:chosen')?.at(-1)).toEqual([allChosen])
  })
})

describe('a change of many items', () => {
  const property = (handle: string) =>
    vocabulary.properties.find((property) => property.handle === handle)
  const cases: readonly [Part, object][] = [
    [{ handle: 'status', how: 'becomes', value: 'st_hand' }, { set: { status: 'st_hand' } }],
    [{ handle: 'assignee', how: 'empty', value: null }, { set: { assignee: null } }],
    [{ handle: 'labels', how: 'add', value: ['la_a'] }, { add: { labels: ['la_a'] } }],
    [{ handle: 'labels', how: 'remove', value: ['la_a'] }, { remove: { labels: ['la_a'] } }],
    [{ handle: 'labels', how: 'empty', value: null }, { set: { labels: [] } }],
    [{ handle: 'status', how: 'becomes', value: null }, {}],
  ]
  it.each(cases)('%j', (part, expected) => {
    expect(bulkChangeOf([part], property)).toEqual(expected)
  })

  it('tells what would change and why not, then carries it out and can be undone', async () => {
    const asked = serve({
      'POST /items/bulk/preview': {
        body: {
          total: 3,
          changed: 2,
          same: 0,
          besides: [],
          refused: bulk().refused,
          words: bulk().words,
        },
      },
      'POST /items/bulk': {
        status: 202,
        body: bulk({ state: 'waiting', done: 0, undoable: false }),
      },
      'GET /bulk/bu_1': { body: bulk() },
    })
    const refs = ['YARD/1', 'YARD/2', 'YARD/3']
    const wrapper = await show(ChangeMany, { props: { items: { refs }, total: 3 } })
    await choose(wrapper, 'Value of Status', 'In hand')
    await vi.waitFor(() => expect(wrapper.text()).toContain('2 items change'))
    expect(wrapper.get('[aria-label=Refused]').text()).toContain('Nothing leads on from there.')
    await press(wrapper, 'Change 2 items')
    await vi.waitFor(() => expect(wrapper.emitted('done')).toBeTruthy())
    const begun = asked.find((request) => request.path === '/items/bulk')!
    expect(begun.body).toEqual({
      items: { refs },
      change: { set: { status: 'st_hand' } },
      total: 3,
    })
  })

  it('stands in the list of one’s changes with what was refused, and is undone there', async () => {
    const undoing = bulk({ id: 'bu_2', undoes: 'bu_1', undoable: false, refused: [] })
    const asked = serve({
      'GET /bulk': { body: { bulk: [bulk()] } },
      'POST /bulk/bu_1/undo': { status: 202, body: undoing },
    })
    const wrapper = await show(ChangesPage)
    expect(rows(wrapper)[0]!.join(' ')).toContain('2 items changed, 1 refused.')
    expect(wrapper.text()).toContain('Nothing leads on from there.')
    await wrapper.get('[aria-label^=Undo]').trigger('click')
    await flushPromises()
    expect(asked.some(({ path }) => path === '/bulk/bu_1/undo')).toBe(true)
  })

  it.each([
    [bulk(), '2 items changed, 1 refused.'],
    [bulk({ refused: [], changed: 1, same: 2 }), '1 item changed, 2 like that already.'],
    [bulk({ state: 'cancelled', takenBack: 2 }), 'Cancelled; 2 items are as before.'],
    [bulk({ state: 'cancelled' }), 'Cancelled; nothing was changed.'],
  ] as const)('says what became of it', (entry, words) => {
    expect(outcomeWords(entry)).toBe(words)
  })
})

describe('the bin', () => {
  const item = {
    ref: 'YARD/9',
    title: 'Old winch',
    type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
    by: 'Mara Thiel',
    at: '2026-11-24T09:00:00Z',
    until: '2026-12-24T09:00:00Z',
  }

  it('shows what was deleted, and gives it back', async () => {
    const asked = serve({
      'GET /bin': { body: { items: [item], total: 1 } },
      'POST /bin/bring-back': { body: { refs: ['YARD/9'] } },
    })
    const wrapper = await show(BinPage)
    expect(rows(wrapper)[0]).toContain('Old winch')
    await wrapper.get('[aria-label="Bring back YARD/9"]').trigger('click')
    await flushPromises()
    expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ refs: ['YARD/9'] })
  })

  it('is looked through by words, and says so where it is empty', async () => {
    serve({
      'GET /bin': { body: { items: [], total: 0 } },
      'GET /bin?words=winch': { body: { items: [], total: 0 } },
    })
    const wrapper = await show(BinPage, { role: 'viewer' })
    expect(wrapper.text()).toContain('The bin is empty.')
    await control(wrapper, 'Find in the bin').setValue('winch')
    await flushPromises()
    expect(wrapper.text()).toContain('Nothing in the bin has these words.')
  })
})
