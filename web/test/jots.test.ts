import type { JotAnswer } from '@bluestem/core/jots'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import JotSheet from '../src/jots/JotSheet.vue'
import JotsPage from '../src/jots/JotsPage.vue'
import { someOffers } from './answers.ts'
import { choose, control, isDisabled, press, rows, serve, show } from './page.ts'

const jot = (id: string, title: string, above: string | null = null): JotAnswer => ({
  id,
  title,
  above,
  at: '2026-11-25T09:00:00Z',
})
const three = [jot('jo_1', 'Hull'), jot('jo_3', 'Engine'), jot('jo_2', 'Blast', 'jo_1')]
const type = (
  id: string,
  title: string,
  below: string[],
): ReturnType<typeof someOffers>['types'][number] => ({
  id,
  title,
  mark: 'Jo2',
  description: '',
  start: null,
  statuses: [],
  moves: [],
  below,
  item: [],
  make: [],
})
const offers = someOffers({
  types: [type('ty_job', 'Job', ['ty_defect']), type('ty_defect', 'Defect', [])],
  usual: 'ty_job',
})

describe('the list of what is unfiled', () => {
  const answers = {
    'GET /jots': { body: { jots: three } },
    'GET /projects/YARD/offers': { body: offers },
  }

  it('shows lines as the tree they were written as', async () => {
    serve(answers)
    const wrapper = await show(JotsPage)
    expect(rows(wrapper).map((row) => row[1])).toEqual(['Hull', 'Blast', 'Engine'])
    expect(isDisabled(wrapper, 'File')).toBe(true)
  })

  it('files what is chosen with what stands below it, each as a type that may stand there', async () => {
    const asked = serve({ ...answers, 'POST /jots/file': { body: { refs: ['YARD/7', 'YARD/8'] } } })
    const wrapper = await show(JotsPage)
    await wrapper.get('tbody tr').trigger('keydown', { key: ' ' })
    await choose(wrapper, 'Project to file into', 'Fleet Yard')
    expect(wrapper.text()).toContain('2 lines chosen')
    expect(wrapper.text()).toContain(', and 1 below as Defect')
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'f' }))
    await flushPromises()
    expect(asked.find(({ path }) => path === '/jots/file')!.body).toEqual({
      project: 'YARD',
      jots: [
        { id: 'jo_1', type: 'ty_job' },
        { id: 'jo_2', type: 'ty_defect' },
      ],
    })
  })

  it('says what would stand too deep, and files nothing of it', async () => {
    serve(answers)
    const wrapper = await show(JotsPage)
    await wrapper.get('tbody tr').trigger('keydown', { key: ' ' })
    await choose(wrapper, 'Project to file into', 'Fleet Yard')
    await choose(wrapper, 'Type they become', 'Defect')
    expect(wrapper.text()).toContain('1 line would stand deeper than Defect allows')
    expect(isDisabled(wrapper, 'File')).toBe(true)
  })

  it('tells each refusal of the server', async () => {
    const message = '“Hull”: Job needs a priority.'
    serve({
      ...answers,
      'POST /jots/file': {
        status: 400,
        body: { title: 'Not valid', detail: message, errors: [{ pointer: '/jots/0', message }] },
      },
    })
    const wrapper = await show(JotsPage)
    await choose(wrapper, 'Project to file into', 'Fleet Yard')
    await control(wrapper, 'Choose Hull').setValue(true)
    await press(wrapper, 'File')
    expect(wrapper.get('[role=alert]').text()).toBe(message)
  })

  it('renames a line where it stands', async () => {
    const asked = serve({ ...answers, 'PATCH /jots/jo_1': { body: jot('jo_1', 'Hull and keel') } })
    const wrapper = await show(JotsPage)
    await wrapper.get('tbody tr').trigger('keydown', { key: 'Enter' })
    await control(wrapper, 'Title of Hull').setValue('Hull and keel')
    await flushPromises()
    expect(asked.at(-1)).toMatchObject({ method: 'PATCH', body: { title: 'Hull and keel' } })
  })

  it('says how to begin where nothing is unfiled', async () => {
    serve({ 'GET /jots': { body: { jots: [] } } })
    const wrapper = await show(JotsPage)
    expect(wrapper.text()).toContain('Press J anywhere to jot titles down')
  })
})

describe('jotting from anywhere', () => {
  it('opens by its key, but not while one writes', async () => {
    serve({ 'GET /jots': { body: { jots: three } } })
    const wrapper = await show(JotSheet, { props: { open: false } })
    const field = document.createElement('input')
    document.body.append(field)
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }))
    expect(wrapper.emitted('update:open')).toBeUndefined()
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'j' }))
    expect(wrapper.emitted('update:open')).toEqual([[true]])
  })

  it('keeps a title at Enter, and pasted lines at once', async () => {
    const asked = serve({
      'GET /jots': { body: { jots: [] } },
      'POST /jots': { status: 201, body: { jots: [jot('jo_9', 'Anodes')] } },
    })
    const wrapper = await show(JotSheet, { props: { open: true } })
    const field = control(wrapper, 'A title to jot down')
    await field.setValue('Anodes')
    await field.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(asked.at(-1)).toMatchObject({ method: 'POST', body: { text: 'Anodes' } })
    expect((field.element as HTMLInputElement).value).toBe('')
    await field.trigger('paste', { clipboardData: { getData: () => 'a\n\tb' } })
    await flushPromises()
    expect(asked.at(-1)).toMatchObject({ method: 'POST', body: { text: 'a\n\tb' } })
  })
})
