import { describe, expect, it } from 'vitest'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import ReviewPage from '../src/definitions/draft/ReviewPage.vue'
import { aChange } from './answers.ts'
import { draft, shown } from './defined.ts'
import { vocabulary, isDisabled, press, rows } from './page.ts'

describe('a draft', () => {
  const change = aChange()

  it('says in the strip how many changes are pending and what they touch', async () => {
    const { wrapper } = await shown(DraftStrip, {}, {}, [
      { ...draft, changes: [change], touched: { items: 6, named: { query: 1 } } },
    ])
    expect(wrapper.text()).toContain('1 change')
    expect(wrapper.text()).toContain('touches 6 items, 1 query')
    expect(wrapper.get('a[href="/definitions/review"]').text()).toBe('Review')
  })
})

describe('a review', () => {
  const long = 'Passengers cannot buy or board a ferry.'
  const changes = [
    aChange({ filter: true }),
    aChange({
      id: 'ch_2',
      by: 'Ilse Varga',
      path: ['priorities', 'pi_now', 'description'],
      sides: {
        kind: 'priority',
        title: 'Now',
        part: 'description',
        before: long,
        after: long.replace('board', 'leave'),
      },
      items: 0,
      named: [{ kind: 'view', id: 'vi_1', title: 'Yard board' }],
    }),
  ]
  const changed = { ...draft, changes, touched: { items: 6, named: { view: 1 } } }
  const reviewing = async (entry: object = {}, more: Parameters<typeof shown>[2] = {}) => {
    const whole = { ...changed, ...entry }
    return await shown(ReviewPage, { props: { draft: whole } }, more, [whole])
  }

  it('tells each change before and after, by whom, what it touches and what names it', async () => {
    const { wrapper } = await reviewing()
    expect(rows(wrapper).map((cells) => cells.slice(0, 4))).toEqual([
      ['status Known, title', 'Open Known', 'Mara Thiel', '6'],
      [
        'priority Now, description',
        'Passengers cannot buy or boardleave a ferry.',
        'Ilse Varga',
        '–',
      ],
    ])
    expect(wrapper.findAll('tbody del').map((node) => node.text())).toEqual(['Open', 'board'])
    expect(wrapper.findAll('tbody ins').map((node) => node.text())).toEqual(['Known', 'leave'])
    expect(wrapper.text()).toContain('6 items differ afterwards')
    const margin = wrapper.get('aside')
    expect(margin.get('a[href="/views/vi_1"]').text()).toBe('Yard board')
    expect(margin.text()).toContain('Ilse Varga')
  })

  it('tells in the same place what the draft would have done to the past', async () => {
    const refusal = {
      type: 'ty_defect',
      from: 'st_open',
      to: 'st_hand',
      why: 'flow',
      words: 'the flow has no such move',
      moves: 9,
      before: 0,
      items: 7,
      refs: ['YARD/1'],
    }
    const { wrapper } = await reviewing(
      {},
      {
        'GET /definitions/drafts/dr_1/replay?days=90': {
          body: { days: 90, moves: 12, newly: 9, refused: [refusal] },
        },
      },
    )
    expect(wrapper.text()).toContain('9 moves of the last 90 days would have been refused')
    expect(rows(wrapper, 1)[0]).toEqual([
      'Defect',
      'Open → In hand',
      'the flow has no such move',
      '9',
      '7 items (opens 1)',
    ])
  })

  it('undoes one change', async () => {
    const { wrapper, asked } = await reviewing(
      {},
      { 'DELETE /definitions/drafts/dr_1/changes/ch_1': { body: draft } },
    )
    await press(wrapper, 'undo')
    expect(asked.find((request) => request.method === 'DELETE')).toMatchObject({
      headers: { 'If-Match': '"1"' },
    })
  })

  it('publishes only what is sound, and asks why where items are touched', async () => {
    const problem = {
      pointer: '/x',
      message: 'Nothing leads to “Signed off”.',
      expected: 'a move to it',
    }
    const { wrapper: unsound } = await reviewing({
      problems: [problem, { ...problem, pointer: '/y' }],
    })
    expect(isDisabled(unsound, 'Publish edition 4')).toBe(true)
    expect(unsound.findAll('.told').map((node) => node.text())).toEqual([
      'Nothing leads to “Signed off”. Needed: a move to it. in 2 places',
    ])
    unsound.unmount()
    const { wrapper, asked } = await reviewing(
      {},
      {
        'POST /definitions/drafts/dr_1/publish': { status: 201, body: { edition: 4, mapping: 0 } },
        'GET /vocabulary': { body: vocabulary },
      },
    )
    await press(wrapper, 'Publish edition 4')
    expect(wrapper.get('[role=alert]').text()).toBe('Say why: 6 items differ afterwards.')
    expect(asked.some((request) => request.path.endsWith('/publish'))).toBe(false)
    await wrapper.get('textarea').setValue('Plainer.')
    await press(wrapper, 'Publish edition 4')
    expect(asked.find((request) => request.path.endsWith('/publish'))).toMatchObject({
      body: { note: 'Plainer.' },
      headers: { 'If-Match': '"1"' },
    })
  })
})
