import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import FlowGrid from '../src/definitions/flows/FlowGrid.vue'
import PrioritiesChapter from '../src/definitions/priorities/PrioritiesChapter.vue'
import StatusForm from '../src/definitions/flows/StatusForm.vue'
import TypeForm from '../src/definitions/types/TypeForm.vue'
import { document_, editsIn, shown } from './defined.ts'
import { show, choose } from './page.ts'

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
    expect(asked.findLast((request) => request.method === 'PATCH')!.body).toMatchObject({
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
      asked.find((request) => request.method === 'POST' && request.path === '/definitions/drafts')!
        .body,
    ).toMatchObject({
      edits: expect.arrayContaining([
        { path: ['statuses', 'st_open', 'title'], after: 'Known' },
      ]) as unknown,
    })
    expect(asked.find((request) => request.path.endsWith('/publish'))).toMatchObject({
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
      grid.findAll('.cell').find((node) => node.attributes('aria-label')!.startsWith(name))!
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
