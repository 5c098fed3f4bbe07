import { aLabel } from './answers.ts'
import { DOMWrapper, flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { useColumnWishes } from '../src/parts/columnWishes.ts'
import ComponentsChapter from '../src/definitions/components/ComponentsChapter.vue'
import LabelForm from '../src/definitions/labels/LabelForm.vue'
import LabelsChapter from '../src/definitions/labels/LabelsChapter.vue'
import { shown } from './defined.ts'
import { press, rows } from './page.ts'

describe('labels', () => {
  it('tell how many items hold each and when last, and which are near duplicates', async () => {
    const { wrapper } = await shown(LabelsChapter)
    expect(rows(wrapper).map((cells) => [cells[1], cells[2], cells[4], cells[6]])).toEqual([
      ['ramp', 'everyone', '63', 'today'],
      ['Ramps', 'everyone', '45', 'never'],
      ['cold', 'Fleet Yard', '0', 'never'],
    ])
    expect(wrapper.get('[aria-label="About what is selected"]').text()).toContain(
      'Says nearly the same',
    )
    await vi.waitFor(() => expect(wrapper.text()).toContain('Near duplicates: 1 group'))
    await press(wrapper, 'Near duplicates: 1 group')
    expect(rows(wrapper).map((cells) => cells[1])).toEqual(['ramp', 'Ramps'])
  })

  it('are made one, the most used first', async () => {
    const { wrapper, asked } = await shown(
      LabelsChapter,
      {},
      { 'POST /labels/merge': { body: { items: 45, left: 0, held: 130 } } },
    )
    await press(wrapper, 'Make them one …')
    expect((wrapper.get('input[type=radio]:checked').element as HTMLInputElement).value).toBe(
      'la_ramp',
    )
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.path === '/labels/merge')!.body).toEqual({
      into: 'la_ramp',
      from: ['la_ramps'],
    })
  })

  it('that were made one are told with the way back, until an edition is published', async () => {
    const { wrapper, asked } = await shown(
      LabelsChapter,
      {},
      {
        'GET /merges': {
          body: {
            merges: [
              {
                id: 4,
                kind: 'labels',
                into: { id: 'la_ramp', title: 'ramp' },
                from: [{ id: 'la_ramps', title: 'Ramps' }],
                by: 'Mara Thiel',
                at: '2026-11-25T09:00:00Z',
              },
            ],
          },
        },
        'POST /merges/4/undo': { body: { items: 45, changedSince: 1 } },
      },
    )
    const told = () => wrapper.find('[aria-label="Made one since the last edition"]')
    await vi.waitFor(() => expect(told().text()).toMatch(/“Ramps” became “ramp” .+, by Mara Thiel/))
    await press(wrapper, 'undo')
    expect(asked.some((request) => request.path === '/merges/4/undo')).toBe(true)
  })

  it('are moved and retired with the version that was read', async () => {
    const { wrapper, asked } = await shown(
      LabelsChapter,
      {},
      { 'PATCH /labels/la_cold': { body: aLabel({ id: 'la_cold' }) } },
    )
    await wrapper.findAll('tbody tr')[2]!.trigger('click')
    await press(wrapper, 'Retire')
    expect(asked.find((request) => request.path === '/labels/la_cold')).toMatchObject({
      body: { retired: true },
      headers: { 'If-Match': '"4"' },
    })
  })

  it('show what is near while one is made', async () => {
    const { wrapper } = await shown(LabelForm)
    await wrapper.get('input[type=text]').setValue('ramps')
    expect(wrapper.get('[role=status]').text()).toContain('Ramps, 45 items, exists')
  })

  it('of a project are lifted to everyone', async () => {
    const { wrapper, asked } = await shown(
      LabelsChapter,
      {},
      { 'POST /labels/la_cold/lift': { body: { items: 0, held: 0, left: 0 } } },
    )
    await wrapper.findAll('tbody tr')[2]!.trigger('click')
    await press(wrapper, 'Lift to everyone')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.path === '/labels/la_cold/lift')!.body).toEqual({
      family: null,
      copies: [],
    })
  })

  it('offer a viewer nothing to change', async () => {
    const { wrapper } = await shown(LabelsChapter, { role: 'viewer' })
    expect(wrapper.findAll('section .p-button:not(.p-button-link, .wishes)')).toHaveLength(0)
    expect(wrapper.findAll('tbody input')).toHaveLength(0)
  })
})

describe('the columns of a table', () => {
  const heads = (wrapper: { findAll: (css: string) => { text: () => string }[] }) =>
    wrapper
      .findAll('thead th:not(.chooser)')
      .map((entry) => entry.text())
      .filter(Boolean)

  it('are hidden and sized from its head, which this browser remembers', async () => {
    localStorage.clear()
    const { wrapper } = await shown(ComponentsChapter)
    const all = heads(wrapper)
    await wrapper.get('button[aria-label^="Columns of Components"]').trigger('click')
    await flushPromises()
    const popover = document.querySelector<HTMLElement>('.p-popover')!
    const box = (header: string): HTMLInputElement =>
      [...popover.querySelectorAll('label')]
        .find((hTMLLabelElement) => hTMLLabelElement.textContent.trim() === header)!
        .querySelector('input')!
    await new DOMWrapper(box('Keeper')).setValue(false)
    expect(heads(wrapper)).toEqual(all.filter((text) => text !== 'Keeper'))
    popover.querySelector<HTMLElement>('[aria-label="Component wider"]')!.click()
    await flushPromises()
    const widths = wrapper.findAll('thead th').map((node) => node.attributes('style') ?? '')
    expect(widths.filter((style) => /min-width: \d+px/.test(style))).toHaveLength(1)
    wrapper.unmount()
    const again = await shown(ComponentsChapter)
    expect(heads(again.wrapper)).not.toContain('Keeper')
    expect(again.wrapper.find('button[aria-label*="of 6 seen"]').exists()).toBe(true)
    localStorage.clear()
  })

  it('are as they come where what was remembered cannot be read', () => {
    localStorage.setItem('columns: People', '{"hidden": 7')
    expect(useColumnWishes('People').value).toEqual({ hidden: [], widths: {} })
    localStorage.setItem('columns: People', '{"hidden": 7}')
    expect(useColumnWishes('People').value).toEqual({ hidden: [], widths: {} })
    localStorage.clear()
  })
})

describe('components', () => {
  it('are selected by an address, as whoever finds one comes to it', async () => {
    const { wrapper } = await shown(ComponentsChapter, {
      path: '/definitions/components?id=co_crane',
    })
    expect(wrapper.get('aside h2').text()).toBe('Shore crane')
  })

  it('tell who keeps each, and one without a keeper is marked', async () => {
    const { wrapper } = await shown(ComponentsChapter)
    expect(rows(wrapper).map((cells) => [cells[1], cells[3]])).toEqual([
      ['MV Heron', 'nobody'],
      ['Shore crane', 'Tom Okafor'],
    ])
  })
})
