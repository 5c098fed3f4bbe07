import AuditChapter from '../src/definitions/audit/AuditChapter.vue'
import { aChange, aLabel } from './answers.ts'
import { DOMWrapper, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { replaceAt } from '@bluestem/core/definitions'
import { useColumnWishes } from '../src/parts/columnWishes.ts'
import ComponentsChapter from '../src/definitions/components/ComponentsChapter.vue'
import DefinitionsFile from '../src/definitions/editions/DefinitionsFile.vue'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import ReviewPage from '../src/definitions/draft/ReviewPage.vue'
import EditionsChapter from '../src/definitions/editions/EditionsChapter.vue'
import FlowsChapter from '../src/definitions/flows/FlowsChapter.vue'
import FormArranger from '../src/definitions/types/FormArranger.vue'
import LabelForm from '../src/definitions/labels/LabelForm.vue'
import LabelsChapter from '../src/definitions/labels/LabelsChapter.vue'
import LinksChapter from '../src/definitions/links/LinksChapter.vue'
import OwnLadder from '../src/definitions/priorities/OwnLadder.vue'
import RequirementForm from '../src/definitions/flows/RequirementForm.vue'
import RulebooksChapter from '../src/definitions/rulebooks/RulebooksChapter.vue'
import TemplatesChapter from '../src/definitions/templates/TemplatesChapter.vue'
import TypesChapter from '../src/definitions/types/TypesChapter.vue'
import { nextKey, withoutChild } from '../src/definitions/templates/template.ts'
import { document_, draft, editsIn, living, shown } from './defined.ts'
import { furnish, choose, isDisabled, press, rows } from './page.ts'

beforeEach(furnish)
afterEach(() => {
  document.body.innerHTML = ''
  vi.unstubAllGlobals()
})

describe('labels', () => {
  it('tell how many items hold each and when last, and which say the same', async () => {
    const { wrapper } = await shown(LabelsChapter)
    expect(rows(wrapper).map((cells) => [cells[1], cells[2], cells[4], cells[6]])).toEqual([
      ['ramp', 'everyone', '63', 'today'],
      ['Ramps', 'everyone', '45', 'never'],
      ['cold', 'Fleet Yard', '0', 'never'],
    ])
    expect(wrapper.get('[aria-label="About what is selected"]').text()).toContain(
      'Says nearly the same',
    )
    await vi.waitFor(() => expect(wrapper.text()).toContain('that say the same: 1 group'))
    await press(wrapper, 'that say the same: 1 group')
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
    expect(asked.find((one) => one.path === '/labels/merge')!.body).toEqual({
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
    expect(asked.some((one) => one.path === '/merges/4/undo')).toBe(true)
  })

  it('are moved and retired with the version that was read', async () => {
    const { wrapper, asked } = await shown(
      LabelsChapter,
      {},
      { 'PATCH /labels/la_cold': { body: aLabel({ id: 'la_cold' }) } },
    )
    await wrapper.findAll('tbody tr')[2]!.trigger('click')
    await press(wrapper, 'Retire')
    expect(asked.find((one) => one.path === '/labels/la_cold')).toMatchObject({
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
    expect(asked.find((one) => one.path === '/labels/la_cold/lift')!.body).toEqual({
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
      .map((one) => one.text())
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
        .find((one) => one.textContent.trim() === header)!
        .querySelector('input')!
    await new DOMWrapper(box('Keeper')).setValue(false)
    expect(heads(wrapper)).toEqual(all.filter((one) => one !== 'Keeper'))
    popover.querySelector<HTMLElement>('[aria-label="Component wider"]')!.click()
    await flushPromises()
    const widths = wrapper.findAll('thead th').map((one) => one.attributes('style') ?? '')
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

describe('templates', () => {
  it('say what is stale, and are mended', async () => {
    const { wrapper, asked } = await shown(
      TemplatesChapter,
      {},
      { 'POST /templates/te_1/mend': { body: living.templates[0] } },
    )
    expect(wrapper.text()).toContain('“Old Harbour” is no longer offered in “Berth”.')
    expect(wrapper.get('a[href="/work/YARD?make=te_1"]').text()).toBe('Fleet Yard')
    await press(wrapper, 'Mend it')
    expect(asked.find((one) => one.path.endsWith('/mend'))!.headers).toMatchObject({
      'If-Match': '"2"',
    })
  })

  it('lose a child whole: what stood below it goes up, and its links go', () => {
    const node = (key: string, under?: string) => ({
      key,
      title: key,
      type: 'ty_a',
      values: {},
      fields: {},
      ...(under ? { under } : {}),
    })
    const content = {
      item: { title: 'top', type: 'ty_a', values: {}, fields: {} },
      children: [node('c1'), node('c2', 'c1'), node('c3', 'c2')],
      links: [
        { kind: 'lk_a', from: 'c2', to: 'c3' },
        { kind: 'lk_a', from: 'c1', to: 'c3' },
      ],
    }
    expect(withoutChild(content, 'c2')).toEqual({
      item: content.item,
      children: [node('c1'), node('c3', 'c1')],
      links: [content.links[1]],
    })
    expect([nextKey(content.children), nextKey([node('c2')])]).toEqual(['c4', 'c3'])
  })
})

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

describe('editions and files', () => {
  const editions = [
    {
      number: 3,
      note: 'Wind.',
      published_at: '2026-07-02T08:00:00Z',
      by: 'Mara Thiel',
      changes: ['adds field “Wind”'],
    },
    { number: 2, note: '', published_at: '2026-04-03T08:00:00Z', by: null, changes: [] },
  ]

  it('are compared in words, and gone back to as a draft', async () => {
    const { wrapper, asked } = await shown(
      EditionsChapter,
      {},
      {
        'GET /definitions/editions': { body: { editions } },
        'GET /definitions/editions/2/compare/3': {
          body: {
            from: 2,
            to: 3,
            changes: [{ path: ['fields'], words: 'adds field “Wind”', before: null, after: {} }],
          },
        },
        'POST /definitions/editions/2/draft': { status: 201, body: draft },
      },
    )
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.get('ol').text()).toBe('adds field “Wind”')
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    await press(wrapper, 'Go back to it, in a draft')
    expect(asked.filter((one) => one.method === 'POST').at(-1)).toMatchObject({
      path: '/definitions/editions/2/draft',
    })
  })

  async function chosen(answer: Parameters<typeof shown>[2], text: string) {
    const { wrapper, asked } = await shown(DefinitionsFile, {}, answer)
    const input = wrapper.get('input[type=file]')
    Object.defineProperty(input.element, 'files', {
      value: [new File([text], 'all.json', { type: 'application/json' })],
    })
    await input.trigger('change')
    await flushPromises()
    return { wrapper, asked }
  }

  it('a file shows what it would change before anything is kept', async () => {
    const { wrapper, asked } = await chosen(
      {
        'POST /definitions/differences': {
          body: {
            changes: [
              {
                path: ['statuses', 'st_open', 'title'],
                words: 'renames status “Open” to “Known”',
                before: 'Open',
                after: 'Known',
              },
            ],
          },
        },
        'POST /definitions/import': { status: 201, body: { draft, changes: 1 } },
      },
      '{"format":1}',
    )
    await vi.waitFor(() => expect(wrapper.text()).toContain('renames status “Open” to “Known”'))
    expect(asked.some((one) => one.path === '/definitions/import')).toBe(false)
    await press(wrapper, 'Open a draft with 1 change')
    expect(asked.some((one) => one.path === '/definitions/import')).toBe(true)
  })

  it('a bad file says where it is wrong, and nothing is kept', async () => {
    const { wrapper } = await chosen(
      {
        'POST /definitions/differences': {
          status: 400,
          body: {
            detail: 'This does not fit.',
            errors: [
              {
                pointer: '/rulebooks/rb_all/extends',
                message: 'A circle.',
                expected: 'another rulebook',
              },
            ],
          },
        },
      },
      '{}',
    )
    await vi.waitFor(() => expect(wrapper.text()).toContain('/rulebooks/rb_all/extends'))
    expect(wrapper.text()).toContain('Nothing was kept.')
    const { wrapper: torn } = await chosen({}, '{')
    await vi.waitFor(() => expect(torn.text()).toContain('“all.json” is not JSON.'))
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
    expect(wrapper.findAll('.bands th').map((one) => one.text())).toEqual([
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
    const [one, other] = wrapper.findAll('[role=dialog] input[type=text]')
    await one!.setValue('waits for')
    await other!.setValue('holds up')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    const [kind, place] = editsIn(asked)
    expect(kind!.after).toMatchObject({ title: 'waits for', inverse: 'holds up' })
    expect(place!.path[3]).toBe(`link:${kind!.path[1]}`)
  })
})

describe('what a draft must ask', () => {
  const need = {
    key: 'status:st_open:st',
    column: 'status',
    from: 'st_open',
    types: ['ty_defect'],
    projects: ['pr_yard'],
    items: 6,
    choices: ['st_hand', 'st_off'],
    mayEmpty: false,
    needed: true,
  }
  const change = aChange({ path: ['statuses', 'st_open'], words: 'takes status “Open” out' })

  it('is answered before anything is published', async () => {
    const asking = { ...draft, changes: [change], needs: [need], open: [need.key] }
    const { wrapper, asked } = await shown(ReviewPage, { props: { draft: asking } }, {}, [asking])
    expect(wrapper.text()).toContain('1 question is open')
    expect(wrapper.get('aside').text()).toContain('choose what 6 items become')
    expect(isDisabled(wrapper, 'Publish edition 4')).toBe(true)
    await choose(wrapper, 'What Open becomes in Defect in Fleet Yard', 'In hand')
    await flushPromises()
    expect(asked.findLast((one) => one.method === 'PATCH')!.body).toEqual({
      choices: { [need.key]: 'st_hand' },
    })
  })

  it('or decided, where an edition said otherwise meanwhile', async () => {
    const clash = {
      path: ['statuses', 'st_open', 'title'],
      mine: [{ path: ['statuses', 'st_open', 'title'], before: 'Open', after: 'Known' }],
      theirs: [{ path: ['statuses', 'st_open', 'title'], before: 'Open', after: 'Heard of' }],
    }
    const clashing = { ...draft, changes: [change], clashes: [clash] }
    const { wrapper, asked } = await shown(
      ReviewPage,
      { props: { draft: clashing } },
      { 'POST /definitions/drafts/dr_1/rebase': { body: draft } },
      [clashing],
    )
    await wrapper.get('input[type=radio][value=theirs]').setValue(true)
    await press(wrapper, 'Decide so')
    expect(asked.find((one) => one.path.endsWith('/rebase'))!.body).toEqual({
      choices: { [JSON.stringify(clash.path)]: 'theirs' },
    })
  })

  it('a proposal waits in the strip, and is opened there', async () => {
    const { wrapper } = await shown(DraftStrip, {}, {}, [
      {
        ...draft,
        id: 'dr_p',
        title: 'A better word',
        proposed: true,
        shared: true,
        mine: false,
        by: 'Tom Okafor',
        changes: [change],
      },
    ])
    expect(wrapper.text()).toContain('1 proposal waits')
    await choose(wrapper, 'What you look at', 'proposal of Tom Okafor: A better word')
    await flushPromises()
    expect(wrapper.text()).toContain('proposal of Tom Okafor: A better word')
  })
})

describe('the audit', () => {
  const act = (number: number, parts: object) => ({
    number,
    at: '2026-11-25T09:00:00Z',
    by: 'Mara Thiel',
    act: 'changed a label',
    subject: 'label la_ramp',
    title: 'Ramps',
    before: null,
    after: null,
    lines: [],
    ...parts,
  })

  it('tells what changed in words, and leads to where it stands', async () => {
    const acts = [
      act(3, { lines: [{ part: 'title', before: 'ramp', after: 'Ramps' }] }),
      act(2, { act: 'deleted a team', subject: 'team tm_old', title: 'Old crew' }),
      act(1, { act: 'published', subject: 'edition 4', title: null }),
    ]
    const { wrapper } = await shown(
      AuditChapter,
      {},
      { 'GET /audit': { body: { acts, kinds: ['published'], more: null } } },
    )
    const margin = wrapper.get('aside')
    expect(margin.get('a').attributes('href')).toBe('/definitions/labels?id=la_ramp')
    expect(margin.get('li').text()).toBe('titleramp Ramps')
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    expect(margin.find('a').exists()).toBe(false)
    await wrapper.findAll('tbody tr')[2]!.trigger('click')
    expect(margin.get('a').attributes('href')).toBe('/definitions/editions?id=4')
  })
})
