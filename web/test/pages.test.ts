import { aQuery, someOffers } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import ConsistencyPage from '../src/consistency/ConsistencyPage.vue'
import MeasuresPage from '../src/dashboards/MeasuresPage.vue'
import EditionsChapter from '../src/definitions/editions/EditionsChapter.vue'
import QueryPage from '../src/queries/QueryPage.vue'
import QueryText from '../src/queries/QueryText.vue'
import ItemPage from '../src/work/ItemPage.vue'
import ViewLibrary from '../src/views/LibraryPage.vue'
import DashboardLibrary from '../src/dashboards/LibraryPage.vue'
import { serve, show, press } from './page.ts'

const whole = {
  ref: 'YARD/1',
  etag: '"5"',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  title: 'Ramp hinge weeps',
  on_hold: false,
  project: { id: 'pr_yard', title: 'Fleet Yard', mark: 'YARD' },
  parent: null,
  description: null,
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  statusSince: '2026-11-20T08:00:00Z',
  holdSince: null,
  moves: [
    { id: 'st_hand', title: 'In hand', mark: 'active', missing: [], says: null, asksReason: false },
  ],
  limits: [],
  rulebook: 'rb_all',
  refusals: [
    {
      id: 'st_off',
      title: 'Signed off',
      mark: 'done',
      message: 'A Defect does not go from Open to Signed off.',
    },
  ],
  children: [
    {
      ref: 'YARD/2',
      title: 'Measure',
      type: { id: 'ty_check', title: 'Check', mark: 'Ck0' },
      status: { id: 'st_off', title: 'Signed off', mark: 'done' },
    },
  ],
  fields: {},
}
const itemAnswers = (more: Parameters<typeof serve>[0] = {}) =>
  serve({
    'GET /items/YARD/1': { body: whole },
    'GET /items/YARD/1/history': {
      body: {
        versions: [
          {
            from: '2026-11-20T08:00:00Z',
            to: null,
            by: { kind: 'person', id: '', title: 'Ilse Varga' },
            words: [[{ text: 'raised it' }]],
            state: {},
          },
        ],
      },
    },
    'GET /items/YARD/1/comments': { body: { comments: [] } },
    'GET /items/YARD/1/links': { body: { links: [] } },
    'GET /projects/YARD/offers': { body: someOffers() },
    ...more,
  })

/** The page of an item reads its ref from the address. */
async function itemPage(role: 'member' | 'viewer' = 'member') {
  const holder = { template: '<RouterView />' }
  const wrapper = await show(holder, { role })
  wrapper.router.addRoute({ path: '/work/:code/:number(\\d+)', component: ItemPage })
  await wrapper.router.push('/work/YARD/1')
  await flushPromises()
  return wrapper
}

describe('the page of an item', () => {
  it('says where it stands, where it may go, what is below it and what happened', async () => {
    itemAnswers()
    const wrapper = await itemPage()
    expect(wrapper.get('h1').text()).toContain('Ramp hinge weeps')
    expect(wrapper.text()).toContain('1 of 1 done')
    expect(wrapper.get('aside').text()).toContain('Ilse Varga raised it')
    await wrapper.get('button.refused').trigger('click')
    expect(wrapper.get('.told').text()).toBe('A Defect does not go from Open to Signed off.')
  })

  it('moves it with the version that was read, and tells a refusal in the server’s words', async () => {
    const asked = itemAnswers({
      'PATCH /items/YARD/1': {
        status: 409,
        body: { detail: 'Not yet: a surveyor has to see it first.' },
      },
    })
    const wrapper = await itemPage()
    await press(wrapper, 'In hand')
    expect(asked.find((request) => request.method === 'PATCH')).toMatchObject({
      body: { status: 'st_hand' },
      headers: { 'If-Match': '"5"' },
    })
    expect(wrapper.get('.told').text()).toBe('Not yet: a surveyor has to see it first.')
  })

  it('offers a viewer nothing to change', async () => {
    itemAnswers()
    const wrapper = await itemPage('viewer')
    expect(wrapper.findAll('main button, section button').map((button) => button.text())).toEqual(
      [],
    )
  })

  it('that is not there says so, and where to go on', async () => {
    itemAnswers({
      'GET /items/YARD/1': {
        status: 404,
        body: { detail: 'There is no item YARD/1, or you may not see it.' },
      },
    })
    const wrapper = await itemPage()
    expect(wrapper.text()).toContain('There is no item YARD/1, or you may not see it.')
    expect(wrapper.get('a[href="/work"]').text()).toBe('All projects')
  })
})

describe('the page of a query', () => {
  it('that is new begins as text, runs everything, and is kept with what it holds', async () => {
    const asked = serve({
      'POST /items/search': { body: { items: [], total: 0, cannotTell: 7, next: null } },
      'POST /queries': { status: 201, body: aQuery('qu_9', 'Ramps') },
    })
    const holder = await show({ template: '<RouterView />' }, { role: 'member' })
    holder.router.addRoute({ path: '/queries/:id', component: QueryPage })
    await holder.router.push('/queries/new')
    await flushPromises()
    expect(holder.text()).toContain('A new question')
    expect(holder.get('.count').text()).toContain('0 answers · 7 can’t be told')
    await press(holder, 'Keep')
    await holder.get('[role=dialog] input[type=text]').setValue('Everything')
    await holder.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.path === '/queries')!.body).toMatchObject({
      title: 'Everything',
      shared: 'me',
      content: { filter: true, order: [{ by: 'changed', direction: 'down' }] },
    })
  })

  it('reads what is written where it is written, and keeps the last answers while it cannot be read', async () => {
    const asked = serve({
      'POST /items/search': { body: { items: [], total: 0, cannotTell: 0, next: null } },
    })
    const holder = await show({ template: '<RouterView />' }, { role: 'member' })
    holder.router.addRoute({ path: '/queries/:id', component: QueryPage })
    await holder.router.push('/queries/new')
    await flushPromises()
    const write = async (text: string): Promise<void> => {
      holder.getComponent(QueryText).vm.$emit('update:modelValue', text)
      await flushPromises()
    }
    await write("statsu = 'Open'")
    expect(holder.get('[role=alert]').text()).toContain('Did you mean status?')
    expect(holder.get('.count').text()).toContain('to the last question that could be read')
    await press(holder, 'write status')
    expect(holder.find('[role=alert]').exists()).toBe(false)
    await write('')
    expect(holder.find('[role=alert]').exists()).toBe(false)
    expect(asked.filter(({ path }) => path.includes('/queries/check'))).toEqual([])
  })
})

describe('empty places say what would stand there', () => {
  it.each<[string, Parameters<typeof show>[0], Parameters<typeof serve>[0], string]>([
    [
      'views',
      ViewLibrary,
      { 'GET /views': { body: { views: [] } }, 'GET /queries': { body: { queries: [] } } },
      'Here the lists and boards would stand',
    ],
    [
      'dashboards',
      DashboardLibrary,
      { 'GET /dashboards': { body: { dashboards: [] } } },
      'Here the dashboards would stand',
    ],
    [
      'measures',
      MeasuresPage,
      { 'GET /measures': { body: { measures: [] } }, 'GET /queries': { body: { queries: [] } } },
      'Here the figures would stand',
    ],
    [
      'consistency',
      ConsistencyPage,
      { 'GET /views': { body: { views: [] } }, 'GET /queries': { body: { queries: [] } } },
      'Every board shows all of its work.',
    ],
  ])('%s', async (_, component, answers, words) => {
    serve(answers)
    expect((await show(component)).text()).toContain(words)
  })
})

describe('editions', () => {
  it('are told with who, why and what they changed', async () => {
    serve({
      'GET /definitions/editions': {
        body: {
          editions: [
            {
              number: 2,
              note: 'Plainer.',
              published_at: '2026-11-20T08:00:00Z',
              by: 'Mara Thiel',
              changes: ['renames status “Open” to “Known”'],
            },
            { number: 1, note: '', published_at: '2026-01-20T08:00:00Z', by: null, changes: [] },
          ],
        },
      },
    })
    const wrapper = await show(EditionsChapter)
    expect(
      wrapper
        .findAll('tbody tr')
        .map((row) => row.findAll('td:not(.chooser)').map((cell) => cell.text())),
    ).toEqual([
      ['2', '20 Nov', 'Mara Thiel', 'Plainer.', '1'],
      ['1', '20 Jan', '–', '', '0'],
    ])
    expect(wrapper.get('aside').text()).toContain('renames status “Open” to “Known”')
  })
})
