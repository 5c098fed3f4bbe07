import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { BirthAnswer } from '@bluestem/core/work'
import { copyOf } from '../src/work/copyOf.ts'
import MakeHere from '../src/work/MakeHere.vue'
import MakeItem from '../src/work/MakeItem.vue'
import MakeLine from '../src/work/MakeLine.vue'
import { anItem, offeredType, offers } from './answers.ts'
import { choose, control, press, type Request, serve, show } from './page.ts'

const birth: BirthAnswer = {
  projects: [
    { id: 'pr_yard', title: 'Fleet Yard', mark: 'YARD' },
    { id: 'pr_pier', title: 'Piers and Shore', mark: 'PIER' },
  ],
  types: [
    { id: 'ty_job', title: 'Job', mark: 'Jo2' },
    { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  ],
  project: 'pr_yard',
  type: 'ty_job',
  given: { status: 'st_hand', fields: { cost: '5' } },
  takes: [
    {
      title: 'Status',
      handle: 'status',
      value: { id: 'st_hand', title: 'In hand', mark: 'active' },
    },
    { title: 'Priority', handle: 'priority', value: null },
  ],
  unmet: [],
  written: [],
}
const filter = { op: '=', args: [{ property: 'status' }, 'st_hand'] }
const line = { filter, place: 'In hand' }
const bodies = (asked: readonly Request[], path: string): unknown[] =>
  asked.filter((request) => request.path === path).map(({ body }) => body)

describe('a line for new items of a list', () => {
  it('gives each the values that make it belong, and says which', async () => {
    const asked = serve({
      'POST /items/born': { body: birth },
      'POST /items': { status: 201, body: anItem({ ref: 'YARD/9' }) },
    })
    const wrapper = await show(MakeLine, { props: line })
    expect(wrapper.get('.takes').text()).toMatch(
      /It takes:\s*status\s*In hand, active\s*priority\s*none/,
    )
    for (const title of ['Grease the winch', 'Paint the winch']) {
      await control(wrapper, 'Title of a new item in In hand').setValue(title)
      await wrapper.get('form').trigger('submit')
      await flushPromises()
    }
    const given = { ...birth.given, project: 'pr_yard', type: 'ty_job' }
    expect(bodies(asked, '/items')).toEqual([
      { ...given, title: 'Grease the winch' },
      { ...given, title: 'Paint the winch' },
    ])
    expect(wrapper.emitted('made')).toEqual([['YARD/9'], ['YARD/9']])
  })

  it('asks anew for another project or type', async () => {
    const asked = serve({
      'POST /items/born': ({ body }) => {
        const { type = 'ty_job' } = body as { type?: string }
        return { body: { ...birth, type } }
      },
    })
    const wrapper = await show(MakeLine, { props: line })
    await choose(wrapper, 'Type of a new item in In hand', 'Defect')
    expect(bodies(asked, '/items/born')).toEqual([
      { filter },
      { filter, project: 'pr_yard', type: 'ty_defect' },
    ])
  })

  it.each([
    [{ unmet: ['created is before 2026-01-01'] }, 'It will not stand here'],
    [{ written: ['title matches “%ramp%”'] }, 'It stands here only where title matches'],
    [
      { project: null, type: null, types: [], unmet: ['in Fares'] },
      'Nothing made now can stand here',
    ],
  ])('tells which clause cannot be met: %o', async (told, words) => {
    serve({ 'POST /items/born': { body: { ...birth, ...told } } })
    const wrapper = await show(MakeLine, { props: line })
    expect(wrapper.text()).toContain(words)
  })

  it('leaves a title that is refused where it is', async () => {
    serve({
      'POST /items/born': { body: birth },
      'POST /items': { status: 400, body: { detail: 'Finding needs a label of “proof”.' } },
    })
    const wrapper = await show(MakeLine, { props: line })
    const title = control(wrapper, 'Title of a new item in In hand')
    await title.setValue('Grease the winch')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.get('[role=alert]').text()).toBe('Finding needs a label of “proof”.')
    expect(title.element.value).toBe('Grease the winch')
  })

  it('opens the form with what is written and taken', async () => {
    serve({
      'POST /items/born': { body: birth },
      'GET /projects/YARD/offers': { body: offers },
    })
    const wrapper = await show(MakeLine, { props: line })
    await control(wrapper, 'Title of a new item in In hand').setValue('Grease the winch')
    await press(wrapper, 'with its form …')
    expect(control(wrapper, 'Title').element.value).toBe('Grease the winch')
    expect(control(wrapper, 'Cost of parts').element.value).toBe('5')
  })

  it('is opened by its key, not while one writes', async () => {
    const wrapper = await show(MakeHere, { props: { modelValue: false, ...line } })
    const field = document.body.appendChild(document.createElement('input'))
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'm', bubbles: true }))
    expect(wrapper.emitted('update:modelValue')).toBeUndefined()
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'm' }))
    expect(wrapper.emitted('update:modelValue')).toEqual([[true]])
  })
})

describe('a form that is left half filled', () => {
  const write = async (title: string) => {
    const wrapper = await show(MakeItem, { props: { offers } })
    await control(wrapper, 'Title').setValue(title)
    await choose(wrapper, 'Priority', 'Sailing stopped')
    wrapper.unmount()
  }

  it('is taken up where it was left', async () => {
    serve({ 'POST /items': { status: 201, body: anItem({ ref: 'YARD/9' }) } })
    await write('Keel block is worn')
    const wrapper = await show(MakeItem, { props: { offers } })
    expect(wrapper.text()).toContain('Taken up where you left it.')
    expect(control(wrapper, 'Title').element.value).toBe('Keel block is worn')
    expect(control(wrapper, 'Priority').text()).toContain('Sailing stopped')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    wrapper.unmount()
    expect((await show(MakeItem, { props: { offers } })).text()).not.toContain('Taken up')
  })

  it('is thrown away on demand, and is nobody else’s', async () => {
    await write('Keel block is worn')
    expect(Object.keys(localStorage)).toEqual(['unfinished pe_tom item in YARD'])
    await press(await show(MakeItem, { props: { offers } }), 'throw it away')
    expect(Object.keys(localStorage)).toEqual([])
  })

  it('begins anew below or beside an item', async () => {
    await write('Keel block is worn')
    const wrapper = await show(MakeItem, { props: { offers, given: { parent: 'YARD/1' } } })
    expect(control(wrapper, 'Title').element.value).toBe('')
  })
})

describe('a copy of an item', () => {
  it('has its words and values, not how far it has come', () => {
    const item = anItem({
      description: 'Weeps at full load.',
      labels: [{ id: 'la_wet', title: 'wet', mark: 3 }],
      parent: { id: 'YARD/7', title: 'Winter refit' },
      due: null,
      remaining: 3,
      fields: { cost: 12 },
    })
    expect(copyOf(item, offeredType)).toEqual({
      type: item.type.id,
      title: item.title,
      description: 'Weeps at full load.',
      labels: ['la_wet'],
      parent: 'YARD/7',
      cost: 12,
      ...(item['priority'] ? { priority: 'pi_late' } : {}),
    })
  })
})
