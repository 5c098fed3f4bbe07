import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import FieldForm from '../src/definitions/fields/FieldForm.vue'
import FieldsChapter from '../src/definitions/fields/FieldsChapter.vue'
import { replaceAt } from '@bluestem/core/definitions'
import { document_, draft, editsIn, sentEdits, shown } from './defined.ts'
import { choose, control } from './page.ts'

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
    expect(asked.map((request) => `${request.method} ${request.path}`)).toContain(
      'POST /definitions/drafts',
    )
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
    const told = (): string[] => wrapper.findAll('.told').map((node) => node.text())
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
