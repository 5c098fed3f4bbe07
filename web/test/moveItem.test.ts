import { aLabel, anItem, offeredType, aDefect as item } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import LabelPicker from '../src/parts/LabelPicker.vue'
import FindItem from '../src/parts/FindItem.vue'
import { findItems } from '../src/parts/findItems.ts'
import ItemBelow from '../src/work/ItemBelow.vue'
import ItemLinks from '../src/work/ItemLinks.vue'
import MoveTo from '../src/work/MoveTo.vue'
import { control, press, serve, show, vocabulary, choose, offeredBy } from './page.ts'

describe('moving an item', () => {
  const move = (more: object = {}) => ({
    id: 'st_hand',
    title: 'In hand',
    mark: 'active',
    missing: [],
    says: null,
    asksReason: false,
    ...more,
  })
  const shownWith = async (moves: readonly object[]) =>
    await show(MoveTo, {
      props: {
        item: {
          ...item,
          moves,
          refusals: [
            { id: 'st_off', title: 'Signed off', mark: 'done', message: 'Not from Open.' },
          ],
        },
        refusal: '',
      },
    })

  it('goes at once where nothing is asked, and tells why where it may not', async () => {
    const wrapper = await shownWith([move()])
    await wrapper.get('button:not(.refused)').trigger('click')
    await wrapper.get('button.refused').trigger('click')
    expect([wrapper.emitted('move'), wrapper.emitted('refused')]).toEqual([
      [['st_hand']],
      [['Not from Open.']],
    ])
  })

  it('says what is missing, and takes a reason together with the move', async () => {
    const wrapper = await shownWith([
      move({
        missing: ['Surveyor must be filled first.', 'Say why, together with the move.'],
        says: 'Name the surveyor.',
        asksReason: true,
      }),
    ])
    await wrapper.get('button:not(.refused)').trigger('click')
    expect(wrapper.emitted('move')).toBeUndefined()
    expect(wrapper.get('form').text()).toContain('Name the surveyor.')
    expect(wrapper.findAll('form li').map((line) => line.text())).toEqual([
      'Surveyor must be filled first.',
      'Say why, together with the move.',
    ])
    expect(wrapper.get('form [type=submit]').attributes('disabled')).toBeDefined()
    await wrapper.get('form textarea').setValue('The slip is free.')
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('move')).toEqual([['st_hand', 'The slip is free.']])
  })
})

describe('giving labels', () => {
  const choices = ['wet', 'dry', 'gone'].map((title) => ({
    id: `la_${title}`,
    title,
    mark: 1,
    name: title,
    qualified: title,
    ...(title === 'gone' ? { retired: true as const } : {}),
  }))
  const opened = async (held: string[] = []) => {
    const asked = serve({
      'GET /labels/recent': { body: { recent: ['la_dry'] } },
      'POST /labels': { status: 201, body: aLabel({ id: 'la_new' }) },
      'GET /vocabulary': { body: vocabulary },
    })
    const wrapper = await show(LabelPicker, { props: { held, choices, name: 'Labels' } })
    await offeredBy(wrapper, 'Labels')
    return {
      asked,
      wrapper,
      lines: () => wrapper.findAll('[role=option]').map((line) => line.text()),
    }
  }

  it('offers those given last first, and a retired one only where it is held', async () => {
    expect((await opened()).lines()).toEqual(['dry', 'wet'])
    expect((await opened(['la_gone'])).lines()).toEqual(['gone', 'dry', 'wet'])
  })

  it('shows what is near before one is made, and gives the new one', async () => {
    const { wrapper, asked, lines } = await opened(['la_wet'])
    await wrapper.get('.p-multiselect-filter').setValue('drys')
    await flushPromises()
    expect(wrapper.get('.foot').text()).toContain('near it, and exists: dry')
    expect(lines()).toEqual(['Nothing is called that'])
    await wrapper.findAll('.foot button').at(-1)!.trigger('click')
    await flushPromises()
    expect(asked.find((request) => request.method === 'POST')!.body).toEqual({ title: 'drys' })
    expect(wrapper.emitted('change')).toEqual([[['la_wet', 'la_new']]])
  })
})

describe('how an item stands to others', () => {
  const waits = {
    id: 7,
    kind: 'lk_waits',
    direction: 'out' as const,
    words: 'waits for',
    ref: 'YARD/9',
    title: 'New winch',
    type: item.type,
    status: item.status,
  }
  const kinds = [{ id: 'lk_waits', title: 'waits for', inverse: 'holds up' }]

  it('is told by its words, ended, and taken back', async () => {
    const asked = serve({
      'DELETE /items/YARD/1/links/7': { status: 204 },
      'POST /items/YARD/1/links': { status: 201, body: { links: [waits] } },
    })
    const wrapper = await show(ItemLinks, { props: { itemRef: 'YARD/1', links: [waits], kinds } })
    expect(wrapper.get('[aria-label="waits for"]').text()).toContain('New winch')
    await wrapper.get('[aria-label="End: waits for YARD/9"]').trigger('click')
    await flushPromises()
    expect(asked[0]!.path).toBe('/items/YARD/1/links/7')
    expect(wrapper.emitted('changed')?.[0]).toEqual([[]])
  })

  it('is made in either direction with an item found by its words; a refusal stands beside it', async () => {
    const refusal = 'This would close a circle of “waits for”.'
    const asked = serve({
      'POST /items/YARD/1/links': { status: 409, body: { detail: refusal } },
    })
    const wrapper = await show(ItemLinks, { props: { itemRef: 'YARD/1', links: [], kinds } })
    await press(wrapper, 'link with another …')
    await choose(wrapper, 'How it stands to the other', 'holds up')
    wrapper.findComponent(FindItem).vm.$emit('chosen', 'YARD/9')
    await flushPromises()
    expect(asked[0]!.body).toEqual({ kind: 'lk_waits', direction: 'in', to: 'YARD/9' })
    expect(wrapper.get('[role=alert]').text()).toBe(refusal)
  })

  it('an item is found by its ref, or by words of titles', async () => {
    const asked = serve({
      'POST /items/search': { body: { items: [item], total: 1, cannotTell: 0, next: null } },
    })
    await findItems('yard/9', 5)
    await findItems('50%', 5)
    expect(asked.map(({ body }) => (body as { filter: string }).filter)).toEqual([
      "ref = 'YARD/9'",
      String.raw`CASEI(title) LIKE CASEI('%50\%%')`,
    ])
  })
})

describe('what stands below an item', () => {
  const types = [
    { ...offeredType, id: 'ty_pack', title: 'Work package', below: ['ty_defect'] },
    offeredType,
  ]
  const pack = anItem({ type: { id: 'ty_pack', title: 'Work package', mark: 'Wp3' } })

  it('is added line by line: a title, Enter, the next', async () => {
    const asked = serve({ 'POST /items': { status: 201, body: anItem() } })
    const wrapper = await show(ItemBelow, { props: { item: pack, types, project: 'YARD' } })
    await press(wrapper, 'break it down …')
    for (const title of ['Take it out', 'Put it back']) {
      await control(wrapper, 'Title of what comes below YARD/1').setValue(title)
      await wrapper.get('form').trigger('submit')
      await flushPromises()
    }
    expect(asked.map(({ body }) => body)).toEqual(
      ['Take it out', 'Put it back'].map((title) => ({
        project: 'YARD',
        type: 'ty_defect',
        title,
        parent: pack.ref,
      })),
    )
    expect(wrapper.emitted('made')).toHaveLength(2)
  })

  it('cannot be added where nothing may stand below', async () => {
    const wrapper = await show(ItemBelow, {
      props: { item: anItem({ type: item.type }), types, project: 'YARD' },
    })
    expect(wrapper.text()).not.toContain('break it down')
  })
})
