import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { controls } from '../src/app/controls.ts'
import type { LongColumn } from '../src/parts/longColumn.ts'
import LongLedger from '../src/parts/LongLedger.vue'

interface Vessel {
  readonly id: string
  readonly title: string
  readonly berths: number
}
const vessels: readonly Vessel[] = [
  { id: 'a', title: 'Petrel 10', berths: 3 },
  { id: 'b', title: 'Petrel 9', berths: 12 },
  { id: 'c', title: 'Avocet', berths: 12 },
]
const columns: readonly LongColumn<Vessel>[] = [
  { key: 'title', header: 'Title', by: ({ title }) => title },
  { key: 'berths', header: 'Berths', isNumber: true, by: ({ berths }) => berths },
  { key: 'note', header: 'Note' },
  { key: 'state', header: 'State' },
]

beforeEach(() => {
  document.body.innerHTML = '<div id="lists"></div>'
})

const show = (more: object = {}) =>
  mount(LongLedger, {
    attachTo: document.body,
    global: { plugins: [controls] },
    props: {
      rows: vessels,
      columns: columns as readonly LongColumn<unknown>[],
      label: 'Vessels',
      keyOf: (entry: unknown) => (entry as Vessel).id,
      nameOf: (entry: unknown) => (entry as Vessel).title,
      ...more,
    },
    slots: { title: ({ row }: { row: unknown }) => (row as Vessel).title },
  })
type Shown = ReturnType<typeof show>
const titles = (wrapper: Shown): string[] =>
  wrapper.findAll('tbody tr').map((row) => row.find('td').text())
const heads = (wrapper: Shown): string[] => wrapper.findAll('th').map((head) => head.text())

describe('a ledger of thousands', () => {
  it.each([
    ['as they come', 'Title', 0, ['Petrel 10', 'Petrel 9', 'Avocet']],
    ['by words, numbers in them by their size', 'Title', 1, ['Avocet', 'Petrel 9', 'Petrel 10']],
    ['the other way', 'Title', 2, ['Petrel 10', 'Petrel 9', 'Avocet']],
    ['as they come again', 'Title', 3, ['Petrel 10', 'Petrel 9', 'Avocet']],
    ['by numbers, alike ones as they come', 'Berths', 2, ['Petrel 9', 'Avocet', 'Petrel 10']],
    ['by nothing that orders nothing', 'Note', 1, ['Petrel 10', 'Petrel 9', 'Avocet']],
  ])('stands %s', async (_, header, times, expected) => {
    const wrapper = show()
    for (let time = 0; time < times; time += 1)
      await wrapper.get(`th[data-header=${header}]`).trigger('click')
    expect(titles(wrapper)).toEqual(expected)
  })

  it('is ordered by keys on a head, which tells how', async () => {
    const wrapper = show()
    const head = wrapper.get('th[data-header=Title]')
    expect(head.attributes()).toMatchObject({ tabindex: '0', 'aria-sort': 'none' })
    await head.trigger('keydown', { key: 'Enter' })
    expect(head.attributes('aria-sort')).toBe('ascending')
    await head.trigger('keydown', { key: ' ' })
    expect(head.attributes('aria-sort')).toBe('descending')
    expect(wrapper.get('th[data-header=Note]').attributes('tabindex')).toBeUndefined()
  })

  it('shows the columns that are wanted, as this browser remembers them', () => {
    localStorage.setItem('columns: Vessels', JSON.stringify({ hidden: ['Note'], widths: {} }))
    const wrapper = show()
    expect(heads(wrapper)).toEqual(['Title', 'Berths', 'State', ''])
    expect(wrapper.get('th:last-child button').attributes('aria-label')).toBe(
      'Columns of Vessels: 3 of 4 seen',
    )
  })

  it('shows all of few columns, and a head that is only read', () => {
    const few = [...columns.slice(0, 2), { key: 'act', header: 'Give back', isAct: true }]
    const wrapper = show({ columns: few })
    expect(heads(wrapper)).toEqual(['Title', 'Berths', 'Give back'])
    expect(wrapper.find('th .seen-not').text()).toBe('Give back')
  })

  it('is walked by keys with one row that Tab comes to, and opened by Enter', async () => {
    const wrapper = show()
    const stops = (): (string | undefined)[] =>
      wrapper.findAll('tbody tr').map((row) => row.attributes('tabindex'))
    expect(stops()).toEqual(['0', '-1', '-1'])
    await wrapper.get('tbody tr').trigger('keydown', { key: 'End' })
    await flushPromises()
    expect(document.activeElement?.textContent).toContain('Avocet')
    expect(stops()).toEqual(['-1', '-1', '0'])
    await wrapper.get('tbody tr:last-child').trigger('keydown', { key: 'Enter' })
    expect(wrapper.emitted('open')).toEqual([[vessels[2]]])
    expect(wrapper.emitted('select')).toEqual([[vessels[2]]])
  })

  it('ticks one, all and none', async () => {
    const wrapper = show({ ticked: [] })
    const set = async (css: string, on: boolean): Promise<unknown> => {
      await wrapper.get(`input[aria-label="${css}"]`).setValue(on)
      const said = wrapper.emitted('update:ticked')?.at(-1)?.[0]
      await wrapper.setProps({ ticked: said as string[] })
      return said
    }
    expect(await set('Tick Avocet', true)).toEqual(['c'])
    expect(await set('Tick all', true)).toEqual(['a', 'b', 'c'])
    expect(await set('Tick Petrel 9', false)).toEqual(['a', 'c'])
    await set('Tick all', true)
    expect(await set('Tick all', false)).toEqual([])
  })

  it('leaves what is ticked and narrowed out of the list as it is', async () => {
    const wrapper = show({ ticked: ['a', 'b'], rows: vessels.slice(1) })
    const all = wrapper.get('input[aria-label="Tick all"]')
    await all.setValue(true)
    expect(wrapper.emitted('update:ticked')).toEqual([[['a', 'b', 'c']]])
    await wrapper.setProps({ ticked: ['a', 'b', 'c'] })
    await all.setValue(false)
    expect(wrapper.emitted('update:ticked')?.at(-1)).toEqual([['a']])
  })
})
