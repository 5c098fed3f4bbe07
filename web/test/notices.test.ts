import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { NoticeAnswer } from '@bluestem/core/notices'
import Followers from '../src/notices/Followers.vue'
import NoticesButton from '../src/notices/NoticesButton.vue'
import NoticesPage from '../src/notices/NoticesPage.vue'
import { choose, press, serve, show } from './page.ts'

const mara = { kind: 'person', id: 'pe_mara', title: 'Mara Thiel' }
const change = (hour: number, words: string): NoticeAnswer['changes'][number] => ({
  from: `2026-11-24T0${hour}:00:00Z`,
  by: mara,
  words: [[{ text: words }]],
})
const notice: NoticeAnswer = {
  ref: 'YARD/1',
  title: 'Ramp hinge weeps',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  changes: [8, 7, 6, 5, 4, 3].map((hour) => change(hour, `changed it at ${hour}`)),
}

describe('what is new', () => {
  it('is told item by item, the latest changes in words and the earlier ones as a count', async () => {
    serve({ 'GET /notices': { body: { notices: [notice], total: 3 } } })
    const wrapper = await show(NoticesPage)
    expect(wrapper.get('li').text()).toContain('Mara Thiel changed it at 8')
    expect(wrapper.get('li').text()).toContain('and 2 changes before')
    expect(wrapper.text()).toContain('2 items more with earlier changes.')
  })

  it('is seen one by one, or all at once', async () => {
    let left = [notice]
    const asked = serve({
      'GET /notices': () => ({ body: { notices: left, total: left.length } }),
      'POST /notices/looked': () => {
        left = []
        return { status: 204 }
      },
    })
    const wrapper = await show(NoticesPage)
    await wrapper.get('[aria-label="YARD/1 is seen"]').trigger('click')
    await flushPromises()
    expect(wrapper.text()).toContain('Nothing is new.')
    left = [notice]
    const other = await show(NoticesPage)
    await press(other, 'All seen')
    expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
      { refs: ['YARD/1'] },
      {},
    ])
  })

  it.each([
    [0, 'Notices: 0 items with something new', ''],
    [1, 'Notices: 1 item with something new', '1'],
    [250, 'Notices: 250 items with something new', '99+'],
  ])('is counted in the masthead: %d', async (count, name, shown) => {
    serve({ 'GET /notices/count': { body: { count } } })
    const link = (await show(NoticesButton)).get('a')
    expect([link.attributes('aria-label'), link.text()]).toEqual([name, shown])
  })
})

describe('who follows an item', () => {
  const tom = { id: 'pe_tom', title: 'Tom Okafor' }
  const ilse = { id: 'pe_ilse', title: 'Ilse Varga' }
  const path = '/items/YARD/1/followers'

  it('is oneself by one press, and others by name', async () => {
    let followers = [] as (typeof tom)[]
    const answer = () => ({ body: { followers, isFollowed: followers.includes(tom) } })
    serve({
      [`GET ${path}`]: answer,
      [`POST ${path}`]: ({ body }) => {
        followers = [...followers, (body as { person: string }).person === 'pe_tom' ? tom : ilse]
        return answer()
      },
      [`DELETE ${path}/pe_tom`]: () => {
        followers = [ilse]
        return { status: 204 }
      },
    })
    const wrapper = await show(Followers, { props: { itemRef: 'YARD/1' } })
    expect(wrapper.text()).toContain('Followed by nobody.')
    await press(wrapper, 'follow')
    await press(wrapper, 'change …')
    await choose(wrapper, 'Who is to follow it', 'Ilse Varga')
    expect(wrapper.text()).toMatch(/Followed by you, Ilse Varga/)
    await press(wrapper, 'done')
    await press(wrapper, 'follow no more')
    expect(wrapper.text()).toMatch(/Followed by Ilse Varga/)
  })
})
