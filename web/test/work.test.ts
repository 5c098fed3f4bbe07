import { aLabel, anItem, aProject, definitionsAnswer, offeredType, offers } from './answers.ts'
import type { OfferedType } from '@bluestem/core/projects'
import type { ItemAnswer } from '@bluestem/core/queries'
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import ItemTable from '../src/parts/ItemTable.vue'
import LabelPicker from '../src/parts/LabelPicker.vue'
import { isShown, type WholeItemAnswer } from '@bluestem/core/work'
import { heldIds } from '../src/parts/heldIds.ts'
import ApplyTemplate from '../src/work/ApplyTemplate.vue'
import HistoryWords from '../src/work/HistoryWords.vue'
import HoldLine from '../src/work/HoldLine.vue'
import FindItem from '../src/parts/FindItem.vue'
import { findItems } from '../src/parts/findItems.ts'
import ItemBelow from '../src/work/ItemBelow.vue'
import ItemLinks from '../src/work/ItemLinks.vue'
import ItemClocks from '../src/work/ItemClocks.vue'
import FieldEditor from '../src/parts/FieldEditor.vue'
import ItemFields from '../src/work/ItemFields.vue'
import MakeItem from '../src/work/MakeItem.vue'
import MoveTo from '../src/work/MoveTo.vue'
import ProjectsPage from '../src/work/ProjectsPage.vue'
import ProposeChange from '../src/work/ProposeChange.vue'
import { document_, draft } from './defined.ts'
import { control, furnish, press, serve, show, vocabulary, choose, offeredBy } from './page.ts'

beforeEach(furnish)
afterEach(() => {
  localStorage.clear()
  document.body.innerHTML = ''
  vi.unstubAllGlobals()
})

const item: WholeItemAnswer = {
  ref: 'YARD/1',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  title: 'Ramp hinge weeps',
  on_hold: false,
  etag: '"1"',
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  statusSince: '2026-11-20T08:00:00Z',
  holdSince: null,
  moves: [],
  limits: [],
  rulebook: 'rb_all',
  refusals: [],
  children: [],
  priority: { id: 'pi_late', title: 'When convenient', mark: 2 },
  due: null,
  labels: [{ id: 'la_wet', title: 'wet', mark: 3 }],
  fields: { cost: 12 },
}

describe('the fields of an item', () => {
  it('stand as the form of the type has them, in its sections', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
    })
    expect(wrapper.findAll('dt').map((dt) => dt.text())).toEqual([
      'Priority',
      'Due',
      'Labels',
      'Cost of parts',
    ])
    expect(wrapper.findAll('h2').map((heading) => heading.text())).toEqual(['Particulars'])
    expect(wrapper.findAll('dd').map((dd) => dd.text())).toEqual([
      '2When convenient',
      '–',
      'wet',
      '12',
    ])
  })

  it('are edited in their place, and tell how to undo', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
    })
    await wrapper.get('button[aria-label="Change Priority"]').trigger('click')
    await choose(wrapper, 'Priority', 'Sailing stopped')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { priority: 'pi_stop' },
      { priority: 'pi_late' },
    ])
    await wrapper.get('button[aria-label="Change Cost of parts"]').trigger('click')
    const input = wrapper.get('input')
    ;(input.element as HTMLInputElement).value = '9'
    await input.trigger('change')
    expect(wrapper.emitted('change')?.[1]).toEqual([
      { fields: { cost: '9' } },
      { fields: { cost: 12 } },
    ])
  })

  it('of several values stay open, and count one’s own change as seen, in whatever order it comes back', async () => {
    const props = { item, type: offeredType, priorities: offers.priorities }
    const wrapper = await show(ItemFields, { props })
    await wrapper.get('button[aria-label="Change Labels"]').trigger('click')
    const editor = wrapper.getComponent(FieldEditor)
    editor.vm.$emit('change', ['la_wet', 'la_car'])
    const labels = [
      { id: 'la_car', title: 'car deck', mark: 2 },
      { id: 'la_wet', title: 'wet', mark: 3 },
    ]
    await wrapper.setProps({ ...props, item: { ...item, labels } })
    expect(editor.props('value')).toEqual(labels)
    editor.vm.$emit('change', ['la_car'])
    expect(wrapper.emitted('change')?.[1]).toEqual([
      { labels: ['la_car'] },
      { labels: ['la_car', 'la_wet'] },
    ])
  })

  it('offer a viewer nothing to change', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
      role: 'viewer',
    })
    expect(wrapper.findAll('button')).toHaveLength(0)
  })
})

describe('an item that is stuck', () => {
  it('says why, and can be taken off hold', async () => {
    const held = {
      ...item,
      on_hold: true,
      hold_reason: 'no calm day',
      holdSince: '2026-11-13T08:00:00Z',
    }
    const wrapper = await show(HoldLine, { props: { item: held } })
    expect(wrapper.text()).toMatch(/On hold since 13 Nov: no calm day\.\s+Take off hold/)
    await wrapper.get('button').trigger('click')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { on_hold: false },
      { on_hold: true, hold_reason: 'no calm day' },
    ])
  })

  it('is put on hold with a reason', async () => {
    const wrapper = await show(HoldLine, { props: { item } })
    await wrapper.get('button').trigger('click')
    await wrapper.get('input').setValue('breaker on order')
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { on_hold: true, hold_reason: 'breaker on order' },
      { on_hold: false },
    ])
  })
})

describe('history', () => {
  it('reads as a sentence, with values in italics', async () => {
    const version = {
      from: '',
      to: null,
      by: { kind: 'person', id: '', title: 'Ilse Varga' },
      words: [
        [{ text: 'moved it from ' }, { text: 'Open', value: true as const }],
        [{ text: 'said something' }],
      ],
    }
    const wrapper = await show(HistoryWords, { props: { version } })
    expect(wrapper.text()).toBe('Ilse Varga moved it from Open; said something')
    expect(wrapper.findAll('em').map((em) => em.text())).toEqual(['Open'])
  })

  it('says that something changed where no words tell what', async () => {
    const version = {
      from: '',
      to: null,
      by: { kind: 'edition', id: '4', title: 'Edition 4' },
      words: [],
    }
    expect((await show(HistoryWords, { props: { version } })).text()).toBe('Edition 4 changed it')
  })
})

describe('making an item', () => {
  it('begins with the usual type and the ladder’s default, and sends what the form holds', async () => {
    const asked = serve({ 'POST /items': { status: 201, body: anItem({ ref: 'YARD/9' }) } })
    const wrapper = await show(MakeItem, { props: { offers } })
    expect((wrapper.get('input[type=radio]:checked').element as HTMLInputElement).value).toBe(
      'ty_defect',
    )
    await wrapper.get('input[type=text]').setValue('Keel block is worn')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked[0]!.body).toEqual({
      project: 'YARD',
      type: 'ty_defect',
      title: 'Keel block is worn',
      priority: 'pi_late',
    })
    expect(asked[0]!.headers['Idempotency-Key']).toMatch(/^[0-9a-f-]{36}$/)
    expect(wrapper.emitted('made')).toEqual([['YARD/9']])
  })

  it('keeps what was written when it is refused, and says everything that was wrong', async () => {
    const asked = serve({
      'POST /items': {
        status: 400,
        body: {
          detail: 'no',
          errors: [{ message: 'Due is a day.' }, { message: 'Cost of parts is a number.' }],
        },
      },
    })
    const wrapper = await show(MakeItem, { props: { offers } })
    await wrapper.get('input[type=text]').setValue('Keel block')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.findAll('[role=alert]').map((line) => line.text())).toEqual([
      'Due is a day.',
      'Cost of parts is a number.',
    ])
    expect((wrapper.get('input[type=text]').element as HTMLInputElement).value).toBe('Keel block')
    expect(asked[0]!.headers['Idempotency-Key']).toBe(asked[1]!.headers['Idempotency-Key'])
  })
})

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

describe('the clocks of an item', () => {
  it.each<[string, boolean, string, string | null, string]>([
    ['running', false, 'runs', '2026-11-26T12:30:00Z', 'quiet'],
    ['running', true, 'runs', '2026-11-26T12:30:00Z', 'warn'],
    ['standing still', false, 'stands still', null, 'quiet'],
    ['passed', true, 'has passed', null, 'warn'],
    ['met', false, 'kept', null, 'well'],
    ['missed', false, 'was not kept', null, 'warn'],
    ['not begun', false, 'has not begun', null, 'quiet'],
  ])('%s (warning: %s) is told in words', async (state, warning, words, runsOut, tone) => {
    const wrapper = await show(ItemClocks, {
      props: {
        item: {
          ...item,
          limits: [
            {
              id: 'tl_1',
              title: 'Answer it',
              state,
              allowed: 240,
              used: 90,
              warning,
              runsOut,
              calendar: 'Yard shifts',
              team: 'Dive team',
            },
          ],
        },
      },
    })
    expect(wrapper.text()).toContain(`Answer it ${words}, 1.5 h of 4 h used`)
    expect(wrapper.findAll('li > span')[1]!.classes()).toContain(tone)
    expect(wrapper.text()).toContain('counted in Yard shifts, the calendar of Dive team')
    expect(wrapper.text().includes('runs out')).toBe(runsOut !== null)
  })

  it('take no room where there are none', async () => {
    expect((await show(ItemClocks, { props: { item } })).find('ul').exists()).toBe(false)
  })
})

describe('a field that waits for another', () => {
  it.each<[string, unknown, boolean]>([
    ['a choice', { id: 'op_a', title: 'A' }, true],
    ['another choice', { id: 'op_b', title: 'B' }, false],
    ['one of several', [{ id: 'op_b' }, { id: 'op_a' }], true],
    ['nothing', null, false],
    ['an identity', 'op_a', true],
    ['yes', true, true],
    ['no', false, false],
  ])('is shown by %s', (_, held, expected) => {
    expect(isShown({ field: 'fi_1', values: ['op_a', true] }, () => heldIds(held))).toBe(expected)
  })

  it('is shown on an item only then, and a computed one is only read', async () => {
    const waiting: OfferedType = {
      ...offeredType,
      item: [
        { field: 'priority', handle: 'priority', section: '', required: true },
        {
          field: 'fi_cost',
          handle: 'cost',
          section: '',
          required: false,
          shownWhen: { field: 'priority', values: ['pi_stop'] },
        },
      ],
    }
    const titles = async (priority: object) =>
      (
        await show(ItemFields, {
          props: { item: { ...item, priority }, type: waiting, priorities: offers.priorities },
        })
      )
        .findAll('dt')
        .map((dt) => dt.text())
    expect(await titles({ id: 'pi_late', title: 'When convenient' })).toEqual(['Priority*'])
    expect(await titles({ id: 'pi_stop', title: 'Sailing stopped' })).toEqual([
      'Priority*',
      'Cost of parts',
    ])
  })
})

const refit = {
  id: 'te_1',
  title: 'Refit',
  description: '',
  type: 'ty_job',
  below: 1,
  blanks: ['vessel'],
}

describe('a template', () => {
  const filled = (vessel: string) => ({
    body: {
      item: {
        key: 'item',
        under: null,
        title: `Refit of ${vessel}`,
        type: 'ty_job',
        values: { due: '2027-03-12' },
        fields: { cost: 9 },
      },
      children: [
        {
          key: 'c1',
          under: 'item',
          title: `Hull of ${vessel}`,
          type: 'ty_job',
          values: {},
          fields: {},
        },
      ],
      left: [
        {
          pointer: '/item/fields/berth',
          message: '“Old Harbour” is no longer offered.',
          mend: 'leave it out',
        },
      ],
    },
  })

  it('fills the form, and what is below it is made with it', async () => {
    const asked = serve({
      'POST /templates/te_1/fill': ({ body }) =>
        filled((body as { blanks: { vessel?: string } }).blanks.vessel ?? '[[vessel]]'),
      'POST /templates/te_1/make': {
        status: 201,
        body: { ref: 'YARD/9', refs: ['YARD/9'], left: [] },
      },
    })
    const wrapper = await show(MakeItem, {
      props: { offers: { ...offers, templates: [refit] }, from: 'te_1' },
    })
    await flushPromises()
    const [blank, title] = wrapper.findAll('input[type=text]')
    expect((title!.element as HTMLInputElement).value).toBe('Refit of [[vessel]]')
    ;(blank!.element as HTMLInputElement).value = 'MV Heron'
    await blank!.trigger('change')
    await flushPromises()
    expect((title!.element as HTMLInputElement).value).toBe('Refit of MV Heron')
    expect(wrapper.text()).toContain(
      'Left out of the template: “Old Harbour” is no longer offered.',
    )
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked.find((one) => one.path.endsWith('/make'))!.body).toMatchObject({
      project: 'YARD',
      title: 'Refit of MV Heron',
      blanks: { vessel: 'MV Heron' },
      over: { due: '2027-03-12', fields: { cost: 9 } },
    })
    expect(wrapper.emitted('made')).toEqual([['YARD/9']])
  })

  it('is looked at before it is applied to an item', async () => {
    const asked = serve({
      'POST /templates/te_1/apply': ({ body }) => ({
        body: {
          values: { priority: 'pi_stop' },
          fields: {},
          before: {
            values: {
              priority:
                (body as { how: string }).how === 'fill'
                  ? null
                  : { id: 'pi_late', title: 'When convenient' },
            },
            fields: {},
          },
          left: [],
          kept: false,
        },
      }),
    })
    const wrapper = await show(ApplyTemplate, { props: { item, templates: [refit] } })
    await flushPromises()
    expect(wrapper.findAll('tbody td').map((cell) => cell.text())).toEqual([
      'Priority',
      '–',
      '1Sailing stopped',
    ])
    await wrapper.get('input[value=replace]').setValue(true)
    await flushPromises()
    expect(wrapper.findAll('tbody td')[1]!.text()).toContain('When convenient')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked.at(-1)).toMatchObject({
      body: { ref: 'YARD/1', how: 'replace', keep: true },
      headers: { 'If-Match': '"1"' },
    })
    expect(wrapper.emitted('applied')).toHaveLength(1)
  })
})

describe('proposing', () => {
  const opened = async () => {
    const asked = serve({
      'GET /definitions': { body: definitionsAnswer({ document: document_ }) },
      'POST /definitions/proposals': { status: 201, body: draft },
    })
    const wrapper = await show(ProposeChange, { props: { item }, role: 'member' })
    await flushPromises()
    return {
      asked,
      wrapper,
      sent: async () => {
        await wrapper.get('form').trigger('submit')
        await flushPromises()
        return asked.at(-1)!.body as { title: string; edits: { path: string[]; after: unknown }[] }
      },
    }
  }

  it('a better word changes that word alone', async () => {
    const { wrapper, sent } = await opened()
    await choose(wrapper, 'Instead of', 'status Open')
    await wrapper.get('input[type=text]').setValue('Known')
    expect(await sent()).toEqual({
      title: '“Known” for status Open',
      edits: [{ path: ['statuses', 'st_open', 'title'], after: 'Known' }],
    })
    expect(wrapper.emitted('close')).toHaveLength(1)
  })

  it('a field that exists gets a place on the form of the rulebook at hand', async () => {
    const { wrapper, sent } = await opened()
    await wrapper.get('input[value=field]').setValue(true)
    await choose(wrapper, 'Field', 'Berth')
    expect((await sent()).edits.map((edit) => edit.path.join('/'))).toEqual([
      'rulebooks/rb_all/entries/form:ty_defect:item:fi_berth',
    ])
  })

  it('a new one comes with a handle that nobody has', async () => {
    const { wrapper, sent } = await opened()
    await wrapper.get('input[value="new field"]').setValue(true)
    await wrapper.get('input[type=text]').setValue('Cost')
    const {
      edits: [field, place],
    } = await sent()
    expect(field!.after).toMatchObject({
      title: 'Cost',
      kind: 'text',
      handle: expect.stringMatching(/^cost_\w{4}$/) as unknown,
    })
    expect(place!.path.at(-1)).toBe(`form:ty_defect:item:${field!.path[1]}`)
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
    expect(asked.find((one) => one.method === 'POST')!.body).toEqual({ title: 'drys' })
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
