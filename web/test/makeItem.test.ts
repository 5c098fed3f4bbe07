import { anItem, definitionsAnswer, offers, aDefect as item } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import ApplyTemplate from '../src/work/ApplyTemplate.vue'
import MakeItem from '../src/work/MakeItem.vue'
import ProposeChange from '../src/work/ProposeChange.vue'
import { document_, draft } from './defined.ts'
import { serve, show, choose } from './page.ts'

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
    expect(asked.find((request) => request.path.endsWith('/make'))!.body).toMatchObject({
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
