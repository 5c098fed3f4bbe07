import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import ReviewPage from '../src/definitions/draft/ReviewPage.vue'
import FieldForm from '../src/definitions/fields/FieldForm.vue'
import FieldsChapter from '../src/definitions/fields/FieldsChapter.vue'
import FlowGrid from '../src/definitions/flows/FlowGrid.vue'
import PrioritiesChapter from '../src/definitions/priorities/PrioritiesChapter.vue'
import StatusForm from '../src/definitions/flows/StatusForm.vue'
import TypeForm from '../src/definitions/types/TypeForm.vue'
import { replaceAt } from '@bluestem/core/definitions'
import { aChange } from './answers.ts'
import { document_, draft, editsIn, sentEdits, shown } from './defined.ts'
import { furnish, show, vocabulary, choose, control, isDisabled, press, rows } from './page.ts'

beforeEach(furnish)
afterEach(() => {
  document.body.innerHTML = ''
  vi.unstubAllGlobals()
})

describe('the chapter of fields', () => {
  it('tells how much each is filled, asked by and last used', async () => {
    const { wrapper } = await shown(FieldsChapter)
    const rows = wrapper
      .findAll('tbody tr')
      .map((row) => row.findAll('td').map((cell) => cell.text()))
    expect(rows).toEqual([
      ['Berth', 'berth', 'choice of 1', 'none', '0 %', '0', 'never', ''],
      ['Cost of parts', 'cost', 'number, €, 2 decimals', 'Defect', '40 %', '3', 'yesterday', ''],
    ])
  })

  it('is narrowed by kind and by words, and says when nothing is left', async () => {
    const { wrapper } = await shown(FieldsChapter)
    await choose(wrapper, 'Kind', 'number')
    expect(wrapper.findAll('tbody tr')).toHaveLength(1)
    await wrapper.get('input[type=search]').setValue('zzz')
    expect(wrapper.text()).toContain('No field is like that.')
    await wrapper.get('.blank button').trigger('click')
    expect(wrapper.findAll('tbody tr')).toHaveLength(2)
  })

  it('offers a viewer nothing to change', async () => {
    const { wrapper } = await shown(FieldsChapter, { role: 'viewer' })
    expect(wrapper.text()).not.toContain('New field')
    expect(wrapper.findAll('button').map((button) => button.text())).not.toContain('Change')
  })
})

describe('making a field', () => {
  it('proposes a handle from the title, until one is written', async () => {
    const { wrapper } = await shown(FieldForm, { props: { id: 'new' } })
    const [title, handle] = wrapper.findAll('input[type=text]')
    await title!.setValue('Größe der Luke 2')
    expect((handle!.element as HTMLInputElement).value).toBe('gro_e_der_luke_2')
    await handle!.setValue('hatch')
    await title!.setValue('Hatch size')
    expect((handle!.element as HTMLInputElement).value).toBe('hatch')
  })

  it('opens a draft, and puts the field and its place on forms into it', async () => {
    const { wrapper, asked } = await shown(FieldForm, { props: { id: 'new' } })
    await wrapper.findAll('input[type=text]')[0]!.setValue('Slipway')
    await choose(wrapper, 'Kind', 'choice')
    await wrapper.get('input[aria-label="New option"]').setValue('Rail 1')
    await wrapper.get('input[aria-label="New option"]').trigger('keydown', { key: 'Enter' })
    await control(wrapper, 'Defect: required').setValue(true)
    await control(wrapper, 'Defect: when one is made').setValue(true)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked.map((one) => `${one.method} ${one.path}`)).toContain('POST /definitions/drafts')
    const [field, ...places] = editsIn(asked)
    expect(field).toMatchObject({
      path: ['fields', expect.stringMatching(/^fi_/)],
      after: { title: 'Slipway', handle: 'slipway', kind: 'choice' },
    })
    expect(Object.values((field!.after as { options: object }).options)).toMatchObject([
      { title: 'Rail 1' },
    ])
    // What is required stands on the item, and is asked when one is made where that is wished.
    expect(places.map(({ path }) => path.slice(0, 3))).toEqual([
      ['rulebooks', 'rb_all', 'entries'],
      ['rulebooks', 'rb_all', 'entries'],
    ])
    expect(places.map(({ path }) => path[3])).toEqual([
      `form:ty_defect:item:${field!.path[1]}`,
      `form:ty_defect:make:${field!.path[1]}`,
    ])
    expect(places.map(({ after }) => (after as { required?: true }).required)).toEqual([true, true])
    expect(wrapper.emitted('close')).toHaveLength(1)
  })

  it('of a known one changes neither handle nor kind, and takes it off a form', async () => {
    const { wrapper, asked } = await shown(FieldForm, { props: { id: 'fi_cost' } })
    expect(
      control(wrapper, 'Handle: its name in queries, for ever').attributes('disabled'),
    ).toBeDefined()
    expect(control(wrapper, 'Kind').attributes('aria-disabled')).toBe('true')
    await wrapper.findAll('input[type=text]')[0]!.setValue('Price of parts')
    await control(wrapper, 'Defect: on the item').setValue(false)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    // Nothing else of the field is sent, and each part says what stood there, so that nobody else's change is written over.
    expect(sentEdits(asked)).toEqual([
      { path: ['fields', 'fi_cost', 'title'], after: 'Price of parts', before: 'Cost of parts' },
      {
        path: ['rulebooks', 'rb_all', 'entries', 'form:ty_defect:item:fi_cost'],
        before: expect.anything() as unknown,
      },
    ])
  })

  it('that was never published may still get another handle and kind', async () => {
    const made = {
      ...document_.fields['fi_cost']!,
      order: 'a9',
      title: 'Slipway',
      handle: 'slipway',
    }
    const { wrapper, asked } = await shown(FieldForm, { props: { id: 'fi_slip' } }, {}, [
      { ...draft, document: replaceAt(document_, ['fields', 'fi_slip'], made) },
    ])
    await control(wrapper, 'Handle: its name in queries, for ever').setValue('rail')
    await choose(wrapper, 'Kind', 'text')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(editsIn(asked)[0]).toMatchObject({
      path: ['fields', 'fi_slip'],
      after: { handle: 'rail', kind: 'text' },
    })
  })

  it('is told at once what the definitions would say against it', async () => {
    const { wrapper } = await shown(FieldForm, { props: { id: 'new' } })
    await wrapper.findAll('input[type=text]')[0]!.setValue('Price')
    const told = (): string[] => wrapper.findAll('.told').map((one) => one.text())
    expect(told()).toEqual([])
    await control(wrapper, 'Handle: its name in queries, for ever').setValue('cost')
    expect(told().join()).toMatch(/The field “Cost of parts” has this handle/)
    await control(wrapper, 'Handle: its name in queries, for ever').setValue('price')
    await choose(wrapper, 'Kind', 'choice')
    expect(told().join()).toMatch(/option/)
  })

  it('stays open with what was written when it is refused', async () => {
    const { wrapper } = await shown(
      FieldForm,
      { props: { id: 'new' } },
      {
        'PATCH /definitions/drafts/dr_1': { status: 400, body: { detail: 'handle is not valid.' } },
      },
    )
    await wrapper.findAll('input[type=text]')[0]!.setValue('Slipway')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.emitted('close')).toBeUndefined()
    expect((wrapper.findAll('input[type=text]')[0]!.element as HTMLInputElement).value).toBe(
      'Slipway',
    )
  })
})

describe('making a type', () => {
  it('begins with the flow and the forms of another', async () => {
    const { wrapper, asked } = await shown(TypeForm, { props: { id: 'new' } })
    const [title, letters] = wrapper.findAll('input[type=text]')
    await title!.setValue('Incident')
    await letters!.setValue('Ic')
    await choose(wrapper, 'Begins with the flow and forms of', 'Defect')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const edits = editsIn(asked)
    const made = edits[0]!.path[1]!
    expect(edits[0]!.after).toMatchObject({ title: 'Incident', monogram: 'Ic', tier: 1 })
    expect(edits.slice(1).map((edit) => edit.path[3])).toEqual([
      `type:${made}`,
      `status:${made}:st_open`,
      `status:${made}:st_hand`,
      `move:${made}:st_open:st_hand`,
      `form:${made}:item:fi_cost`,
    ])
  })
})

describe('making a status', () => {
  it('takes it into the flow with the moves that lead to it and from it', async () => {
    const { wrapper, asked } = await shown(StatusForm, { props: { id: 'new', type: 'ty_defect' } })
    await wrapper.get('input[type=text]').setValue('On trial')
    const boxes = wrapper.findAll('fieldset').map((set) => set.findAll('input'))
    await boxes[0]![1]!.setValue(true)
    await boxes[1]![0]!.setValue(true)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const edits = editsIn(asked)
    const made = edits[0]!.path[1]!
    expect(edits.map((edit) => edit.path.at(-1))).toEqual([
      made,
      `status:ty_defect:${made}`,
      `move:ty_defect:st_hand:${made}`,
      `move:ty_defect:${made}:st_open`,
    ])
  })

  it('places it on the boards concerned in the same act', async () => {
    const { wrapper, asked } = await shown(StatusForm, { props: { id: 'new', type: 'ty_defect' } })
    await wrapper.get('input[type=text]').setValue('On trial')
    await wrapper.get('input[type=checkbox][value=vi_b]').setValue(true)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const made = editsIn(asked)[0]!.path[1]
    expect(asked.findLast((one) => one.method === 'PATCH')!.body).toMatchObject({
      boards: [{ view: 'vi_b', status: made }],
    })
  })

  it('of a used one tells what another phase would do, and a new name is published in one act', async () => {
    const published = {
      'POST /definitions/drafts/dr_1/publish': { status: 201, body: { edition: 4, mapping: 0 } },
    }
    const { wrapper, asked } = await shown(
      StatusForm,
      { props: { id: 'st_open', type: 'ty_defect' } },
      published,
    )
    await choose(wrapper, 'Phase', 'done')
    expect(wrapper.text()).toContain(
      '6 items in it would be done from the moment this is published',
    )
    await choose(wrapper, 'Phase', 'idle')
    await wrapper.get('input[type=text]').setValue('Known')
    await wrapper
      .findAll('button')
      .find((button) => button.text() === 'Publish it at once')!
      .trigger('click')
    await flushPromises()
    expect(
      asked.find((one) => one.method === 'POST' && one.path === '/definitions/drafts')!.body,
    ).toMatchObject({
      edits: expect.arrayContaining([
        { path: ['statuses', 'st_open', 'title'], after: 'Known' },
      ]) as unknown,
    })
    expect(asked.find((one) => one.path.endsWith('/publish'))).toMatchObject({
      body: { note: '“Open” is now called “Known”.' },
    })
  })
})

describe('the flow grid', () => {
  const flow = {
    type: 'ty_defect',
    start: 'st_open',
    statuses: ['st_open', 'st_hand', 'st_off'],
    moves: new Set(['st_open:st_hand', 'st_hand:st_off']),
  }
  const before = { ...flow, moves: new Set(['st_open:st_hand', 'st_off:st_hand']) }
  const props = {
    flow,
    before,
    statuses: document_.statuses,
    made: { 'st_open:st_hand': 40, 'st_open:st_off': 2 },
    mayEdit: true,
    selected: undefined,
  }

  it('tells for each move whether it is allowed, by whom, and how often it was made', async () => {
    const grid = await show(FlowGrid, { props })
    const cell = (name: string) =>
      grid.findAll('.cell').find((one) => one.attributes('aria-label')!.startsWith(name))!
    expect(cell('Open to In hand').attributes()).toMatchObject({
      'aria-pressed': 'true',
      'aria-label': 'Open to In hand: allowed, 40 times',
    })
    expect(cell('Open to Signed off').attributes('aria-label')).toBe(
      'Open to Signed off: not allowed, yet it happened, 2 times',
    )
    expect(cell('In hand to Signed off').classes()).toContain('allows')
    expect(cell('Signed off to In hand').classes()).toContain('forbids')
    expect(cell('In hand to Open').attributes('aria-label')).toContain('not allowed, 0 times')
    expect(grid.findAll('.cell')).toHaveLength(6)
  })

  it('is walked with the arrows, over the places that hold no move, and pressed', async () => {
    const grid = await show(FlowGrid, { props })
    const start = grid.findAll('.cell')[0]!
    ;(start.element as HTMLElement).focus()
    await start.trigger('keydown', { key: 'ArrowDown' })
    await grid.get('[data-cell="0,1"]').trigger('keydown', { key: 'ArrowRight' })
    expect(document.activeElement?.getAttribute('data-cell')).toBe('0,2')
    await grid.get('[data-cell="0,2"]').trigger('keydown', { key: 'ArrowDown' })
    expect(document.activeElement?.getAttribute('data-cell')).toBe('1,2')
    await grid.get('[data-cell="1,2"]').trigger('click')
    expect(grid.emitted('toggle')).toEqual([[{ from: 'st_hand', to: 'st_off' }]])
  })

  it('is only looked at by whoever may not define', async () => {
    const grid = await show(FlowGrid, { props: { ...props, mayEdit: false } })
    await grid.get('[data-cell="0,1"]').trigger('click')
    expect(grid.emitted('toggle')).toBeUndefined()
    expect(grid.emitted('look')?.at(-1)).toEqual([{ from: 'st_open', to: 'st_hand' }])
  })
})

describe('priorities', () => {
  it('stand by urgency, on the ladders above them, and say who shares them', async () => {
    const { wrapper } = await shown(PrioritiesChapter)
    expect(
      wrapper.findAll('tbody tr').map((row) =>
        row
          .findAll('td')
          .slice(0, 2)
          .map((cell) => cell.text()),
      ),
    ).toEqual([
      ['Now', '1 of 5'],
      ['Odd', '3 of 5'],
      ['Later', '4 of 5'],
    ])
    expect(wrapper.text()).toContain('2 projects: Fleet Yard, pr_pier')
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    expect(wrapper.text()).toContain(
      'Nobody is offered it until it stands on a ladder that a project follows.',
    )
  })

  it('move a rung by keyboard or pointer', async () => {
    const { wrapper, asked } = await shown(PrioritiesChapter)
    expect(wrapper.get('button[aria-label="Now a rung up"]').attributes('disabled')).toBeDefined()
    await wrapper.get('button[aria-label="Now a rung down"]').trigger('click')
    await flushPromises()
    const [edit] = editsIn(asked)
    expect(edit!.path).toEqual(['ladders', 'ld_ops', 'rungs', 'pi_now', 'order'])
    expect(String(edit!.after) > 'a1').toBe(true)
  })
})

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
  const reviewing = async (one: object = {}, more: Parameters<typeof shown>[2] = {}) => {
    const whole = { ...changed, ...one }
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
    expect(wrapper.findAll('tbody del').map((one) => one.text())).toEqual(['Open', 'board'])
    expect(wrapper.findAll('tbody ins').map((one) => one.text())).toEqual(['Known', 'leave'])
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
    expect(asked.find((one) => one.method === 'DELETE')).toMatchObject({
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
    expect(unsound.findAll('.told').map((one) => one.text())).toEqual([
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
    expect(asked.some((one) => one.path.endsWith('/publish'))).toBe(false)
    await wrapper.get('textarea').setValue('Plainer.')
    await press(wrapper, 'Publish edition 4')
    expect(asked.find((one) => one.path.endsWith('/publish'))).toMatchObject({
      body: { note: 'Plainer.' },
      headers: { 'If-Match': '"1"' },
    })
  })
})
