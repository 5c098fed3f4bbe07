import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { replaceAt } from '@bluestem/core/definitions'
import FlowsChapter from '../src/definitions/flows/FlowsChapter.vue'
import FormArranger from '../src/definitions/types/FormArranger.vue'
import LinksChapter from '../src/definitions/links/LinksChapter.vue'
import OwnLadder from '../src/definitions/priorities/OwnLadder.vue'
import RequirementForm from '../src/definitions/flows/RequirementForm.vue'
import RulebooksChapter from '../src/definitions/rulebooks/RulebooksChapter.vue'
import TypesChapter from '../src/definitions/types/TypesChapter.vue'
import { document_, draft, editsIn, shown } from './defined.ts'
import { choose, press, rows } from './page.ts'

const extended = {
  ...draft,
  document: replaceAt(document_, ['rulebooks', 'rb_yard'], {
    order: 'b',
    title: 'Yard',
    description: '',
    extends: 'rb_all',
    entries: {
      'move:ty_defect:st_open:st_hand': 'out',
      'form:ty_defect:item:fi_berth': { order: 'b' },
    },
  }),
}

describe('rulebooks', () => {
  it('stand below the one they extend, each entry with where it comes from', async () => {
    const { wrapper, asked } = await shown(
      RulebooksChapter,
      {},
      {
        'GET /definitions/rulebooks/rb_all/keepers': { body: { keepers: [] } },
        'GET /definitions/rulebooks/rb_yard/keepers': {
          body: { keepers: [{ id: 'pe_tom', title: 'Tom Okafor' }] },
        },
      },
      [extended],
    )
    expect(rows(wrapper).map((cells) => cells[0])).toEqual(['Everyone', '└ Yardin the draft'])
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    await flushPromises()
    expect(wrapper.text()).toContain('5 inherited0 changed here1 added here1 left out here')
    await press(wrapper, '1 left out here')
    expect(rows(wrapper, 1)[0]!.slice(0, 3)).toEqual([
      'move Defect: Open → In hand',
      'allowed',
      'left out here',
    ])
    await wrapper.get('button[aria-label="Give Defect: Open → In hand back"]').trigger('click')
    await flushPromises()
    expect(editsIn(asked)).toEqual([
      { path: ['rulebooks', 'rb_yard', 'entries', 'move:ty_defect:st_open:st_hand'] },
    ])
  })

  it('are compared side by side, and take over from each other', async () => {
    const { wrapper, asked } = await shown(
      RulebooksChapter,
      {},
      { 'GET /definitions/rulebooks/rb_all/keepers': { body: { keepers: [] } } },
      [extended],
    )
    await press(wrapper, 'Beside another')
    expect(rows(wrapper, 1).map((cells) => cells.slice(1))).toEqual([
      ['place on a form Defect: Berth, on an item', 'nothing', 'shown'],
      ['move Defect: Open → In hand', 'allowed', 'not allowed'],
    ])
    await wrapper.get('input[aria-label="Tick Defect: Open → In hand"]').setValue(true)
    await press(wrapper, 'take over into Everyone')
    expect(editsIn(asked)).toEqual([
      { path: ['rulebooks', 'rb_all', 'entries', 'move:ty_defect:st_open:st_hand'] },
    ])
  })

  it('and a ladder: the ladder, the rulebook and the project come together', async () => {
    const { wrapper, asked } = await shown(OwnLadder)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const [ladder, book, follows] = editsIn(asked)
    expect(ladder!.after).toMatchObject({
      rungs: { pi_now: { order: 'a0' }, pi_late: { order: 'a1' } },
      default: 'pi_late',
    })
    expect(book!.after).toMatchObject({
      extends: 'rb_all',
      entries: { ladder: { ladder: ladder!.path[1] } },
    })
    expect(follows!.after).toBe(book!.path[1])
  })
})

describe('the rulebook that a chapter is read in', () => {
  it('tells whom it reaches, and that others extend it', async () => {
    const { wrapper } = await shown(LinksChapter, {}, {}, [extended])
    expect(wrapper.text().replaceAll(/\s+/g, ' ')).toContain('2 projects1 rulebook extends it')
    await choose(wrapper, 'Rulebook', 'Yard')
    expect(wrapper.text()).toContain('0 projects')
    expect(wrapper.text()).not.toContain('extends it')
  })
})

describe('flows and forms', () => {
  const moves = {
    'GET /definitions/moves/ty_defect?days=90': { body: { moves: { 'st_open:st_hand': 12 } } },
  }

  it('a flow tells what no board shows, and leaves a status out with what rests on it', async () => {
    const { wrapper, asked } = await shown(FlowsChapter, {}, moves)
    expect(wrapper.text()).toContain('No shared board shows Signed off.')
    await wrapper
      .findAll('table.ledger tbody tr')
      .find((row) => row.text().includes('In hand'))!
      .trigger('click')
    await press(wrapper, 'Leave out of this flow')
    expect(editsIn(asked).map((edit) => edit.path[3])).toEqual([
      'move:ty_defect:st_open:st_hand',
      'status:ty_defect:st_hand',
    ])
  })

  it('statuses stand in bands by phase, and move to another place by keys or by hand', async () => {
    const { wrapper, asked } = await shown(FlowsChapter, {}, moves, [draft])
    expect(wrapper.findAll('.bands th').map((node) => node.text())).toEqual([
      'idle not begun, or at rest',
      'active being worked on',
    ])
    await wrapper
      .get('[data-status=st_open]')
      .trigger('keydown', { key: 'ArrowRight', altKey: true })
    await flushPromises()
    const [edit] = editsIn(asked)
    expect(edit!.path.slice(-1)).toEqual(['status:ty_defect:st_open'])
    expect((edit!.after as { order: string }).order > 'a1').toBe(true)
    const [open, hand] = wrapper.findAll('thead th[draggable=true]')
    await hand!.trigger('dragstart')
    await open!.trigger('drop')
    await flushPromises()
    const [dropped] = editsIn(asked)
    expect(dropped!.path.slice(-1)).toEqual(['status:ty_defect:st_hand'])
    expect((dropped!.after as { order: string }).order < 'a0').toBe(true)
  })

  it('what entering a status needs is one entry', async () => {
    const { wrapper, asked } = await shown(RequirementForm, {
      props: { type: 'ty_defect', status: 'st_hand' },
    })
    await wrapper.get('input[type=checkbox][value=fi_cost]').setValue(true)
    await wrapper.get('textarea').setValue('Say what the parts cost.')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(editsIn(asked)).toEqual([
      {
        path: ['rulebooks', 'rb_all', 'entries', 'requirement:ty_defect:st_hand'],
        after: { requires: { filled: ['fi_cost'], says: 'Say what the parts cost.' } },
      },
    ])
  })

  it('a form is arranged by keyboard and shown as a real item would have it', async () => {
    const whole = {
      ...draft,
      document: replaceAt(
        document_,
        ['rulebooks', 'rb_all', 'entries', 'form:ty_defect:item:priority'],
        { order: 'b0' },
      ),
    }
    const { wrapper, asked } = await shown(
      FormArranger,
      { props: { type: 'ty_defect' } },
      {
        'POST /items/search': {
          body: {
            items: [
              {
                ref: 'YARD/1',
                title: 'Ramp hinge weeps',
                type: { id: 'ty_defect', title: 'Defect' },
                on_hold: false,
                priority: { id: 'pi_late', title: 'When convenient', mark: 2 },
                fields: { cost: 12 },
              },
            ],
            total: 1,
            cannotTell: 0,
            next: null,
          },
        },
      },
      [whole],
    )
    const lines = (form: string) =>
      wrapper.findAll(`[aria-label="${form}"] li`).map((li) => li.text())
    expect(lines('On an item')).toEqual(['Cost of parts12', 'Priority2When convenient'])
    await wrapper
      .findAll('[aria-label="On an item"] li')[0]!
      .trigger('keydown', { key: 'ArrowDown', altKey: true })
    expect(lines('On an item')).toEqual(['Priority2When convenient', 'Cost of parts12'])
    await press(wrapper, 'Put it in the draft')
    const orders = Object.fromEntries<string>(
      editsIn(asked).map(
        (edit) => [edit.path[3] ?? '', (edit.after as { order: string }).order] as const,
      ),
    )
    expect(orders['form:ty_defect:item:priority']! < orders['form:ty_defect:item:fi_cost']!).toBe(
      true,
    )
  })

  it('a field goes under a new heading, and onto the other form with the rule that it must be filled', async () => {
    const { wrapper, asked } = await shown(
      FormArranger,
      { props: { type: 'ty_defect' } },
      { 'POST /items/search': { body: { items: [], total: 0, cannotTell: 0, next: null } } },
    )
    await wrapper.get('[aria-label="A new heading"]').setValue('Money')
    await wrapper.get('[aria-label="On an item"] form').trigger('submit')
    const field = '[aria-label="On an item"] li[data-place="fi_cost"]'
    await wrapper.get(field).trigger('keydown', { key: 'ArrowDown', altKey: true })
    await wrapper.get(field).trigger('click')
    await press(wrapper, 'Put it on the form “when one is made” too')
    await wrapper.get('[aria-label="Rules of the field"] input[type=checkbox]').setValue(true)
    await press(wrapper, 'Put it in the draft')
    expect(editsIn(asked).map(({ path, after }) => [path[3], after] as const)).toMatchObject([
      ['form:ty_defect:item:fi_cost', { section: 'Money' }],
      ['form:ty_defect:make:fi_cost', { required: true }],
    ])
  })

  it('a type that a rulebook does not offer is offered as another has it, or left out', async () => {
    const { wrapper, asked } = await shown(TypesChapter)
    expect(rows(wrapper).map((cells) => [cells[1], cells[4]])).toEqual([
      ['Job', '–'],
      ['Defect', 'offered'],
    ])
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    await press(wrapper, 'Leave out of this rulebook')
    expect(editsIn(asked)).toEqual([{ path: ['rulebooks', 'rb_all', 'entries', 'type:ty_defect'] }])
  })

  it('a link kind joins the rulebook at hand when it is made', async () => {
    const { wrapper, asked } = await shown(LinksChapter)
    await press(wrapper, 'New link kind')
    const [node, other] = wrapper.findAll('[role=dialog] input[type=text]')
    await node!.setValue('waits for')
    await other!.setValue('holds up')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    const [kind, place] = editsIn(asked)
    expect(kind!.after).toMatchObject({ title: 'waits for', inverse: 'holds up' })
    expect(place!.path[3]).toBe(`link:${kind!.path[1]}`)
  })
})
