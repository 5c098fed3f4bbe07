import type { FinishIteration, IterationAnswer, PlanAnswer } from '@bluestem/core/iterations'
import type { TeamAnswer } from '@bluestem/core/teams'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { call } from '../src/api/http.ts'
import FinishSheet from '../src/iterations/FinishSheet.vue'
import IterationPage from '../src/iterations/IterationPage.vue'
import IterationsPage from '../src/iterations/IterationsPage.vue'
import MakeSeries from '../src/iterations/MakeSeries.vue'
import { capacityWords, daysWords, isOverCapacity, sumWords } from '../src/iterations/words.ts'
import { choose, control, press, rows, serve, show } from './page.ts'

const iteration = (parts: Partial<IterationAnswer> = {}): IterationAnswer => ({
  id: 'it_1',
  title: 'Apps 4',
  team: { id: 'tm_apps', title: 'Apps crew' },
  start: '2026-11-23',
  end: '2026-12-06',
  goal: 'One price for families',
  state: 'running',
  startedAt: '2026-11-23T08:00:00Z',
  finishedAt: null,
  items: 4,
  done: 1,
  version: 3,
  ...parts,
})
const team: TeamAnswer = {
  id: 'tm_apps',
  title: 'Apps crew',
  people: ['pe_mara'],
  remit: { kept: null, text: '', sentence: [], errors: [] },
  calendar: null,
  version: 1,
}
const sum = (
  refs: string[],
  ...sums: PlanAnswer['outcome']['inside']['sums']
): PlanAnswer['outcome']['inside'] => ({
  refs,
  sums,
  unestimated: 0,
})
const plan = (parts: Partial<PlanAnswer> = {}): PlanAnswer => ({
  iteration: iteration(),
  capacity: {
    workingDays: 10,
    people: [{ id: 'pe_tom', title: 'Tom Okafor', days: 7, away: 3, hours: 56 }],
    days: 7,
    hours: 56,
  },
  outcome: {
    inside: sum(['YARD/1', 'YARD/2'], { unit: 'hours', sum: 60 }, { unit: 'points', sum: 5 }),
    done: sum(['YARD/2']),
    open: sum(['YARD/1']),
    committed: sum(['YARD/1', 'YARD/2']),
    later: sum([]),
    left: sum([]),
  },
  next: [{ id: 'it_2', title: 'Apps 5' }],
  ...parts,
})
const item = {
  ref: 'YARD/1',
  type: { id: 'ty_job', title: 'Job', mark: 'Jo2' },
  title: 'Fit the winch',
  status: { id: 'st_hand', title: 'In hand', mark: 'active' },
  on_hold: false,
}
const found = { body: { items: [item], total: 1, cannotTell: 0, next: null } }

describe('words of an iteration', () => {
  it('says its days, and sums without adding unlike units', () => {
    const now = new Date('2026-11-25T10:00:00Z')
    expect(daysWords(iteration(), now)).toBe('23 Nov – 6 Dec')
    expect(daysWords(iteration({ start: null }), now)).toBe('until 6 Dec')
    expect(daysWords(iteration({ end: null }), now)).toBe('from 23 Nov')
    expect(daysWords(iteration({ start: null, end: null }), now)).toBe('no days yet')
    expect(sumWords(plan().outcome.inside)).toBe('60 hours, 5 points')
  })
  it.each([
    [60, '60 of 56 hours', true],
    [40, '40 of 56 hours', false],
  ])('compares %s hours with what can be worked', (hours, words, isOver) => {
    const outcome = { ...plan().outcome, inside: sum([], { unit: 'hours', sum: hours }) }
    expect(capacityWords(outcome, plan().capacity)).toBe(words)
    expect(isOverCapacity(outcome, plan().capacity)).toBe(isOver)
  })
  it('compares nothing with points', () => {
    const outcome = { ...plan().outcome, inside: sum([], { unit: 'points', sum: 500 }) }
    expect(capacityWords(outcome, plan().capacity)).toBe('')
    expect(isOverCapacity(outcome, plan().capacity)).toBe(false)
    expect(capacityWords(outcome, null)).toBe('')
  })
})

describe('the iterations', () => {
  it('stand with what runs first, then what comes, then what is over', async () => {
    serve({
      'GET /iterations': {
        body: {
          iterations: [
            iteration({ id: 'it_4', title: 'Later', state: 'planned', start: '2027-02-01' }),
            iteration({ id: 'it_3', title: 'Sooner', state: 'planned', start: '2027-01-01' }),
            iteration({ id: 'it_1', title: 'Now' }),
            iteration({ id: 'it_9', title: 'Over', state: 'finished', start: '2026-10-01' }),
          ],
        },
      },
      'GET /teams': { body: { teams: [team] } },
    })
    const wrapper = await show(IterationsPage)
    expect(rows(wrapper).map(([title]) => title)).toEqual(['Now', 'Sooner', 'Later', 'Over'])
    expect(rows(wrapper)[0]).toContain('1/4')
  })

  it('go on as the last one did, and are shown before they are made', async () => {
    const asked = serve({
      'POST /iterations/series': { status: 201, body: { iterations: [iteration()] } },
    })
    const wrapper = await show(MakeSeries, {
      props: { teams: [team], iterations: [iteration()], team: 'tm_apps' },
    })
    expect(wrapper.text()).toContain('Apps 5')
    expect(wrapper.text()).toContain('7 Dec – 20 Dec')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked.at(-1)!.body).toEqual({
      name: 'Apps {n}',
      number: 5,
      team: 'tm_apps',
      first: '2026-12-07',
      weeks: 2,
      count: 1,
    })
    expect(wrapper.emitted('made')).toHaveLength(1)
  })
})

describe('one iteration', () => {
  const answers = {
    'GET /iterations/it_1/plan': { body: plan() },
    'GET /teams': { body: { teams: [team] } },
    'POST /items/search': found,
  }
  it('tells how it stands, and lists what a figure counts', async () => {
    const asked = serve(answers)
    const wrapper = await show(IterationPage, { path: '/iterations/it_1' })
    expect(wrapper.text()).toContain('One price for families')
    expect(wrapper.get('aside').text()).toContain('7 days, away 3')
    expect(wrapper.get('aside').text()).toContain('more than fits')
    const figure = wrapper.findAll('.figure').find((node) => node.text().includes('committed'))!
    await figure.trigger('click')
    await flushPromises()
    expect(asked.at(-1)!.body).toMatchObject({
      filter: { op: 'in', args: [{ property: 'ref' }, ['YARD/1', 'YARD/2']] },
    })
  })

  it('is finished with a place for each item that is open', async () => {
    const asked = serve({
      'POST /items/search': found,
      'POST /iterations/it_1/finish': { body: iteration({ state: 'finished' }) },
    })
    const { iteration: span, outcome, next } = plan()
    const finish = async (body: FinishIteration): Promise<unknown> =>
      await call('POST /iterations/{id}/finish', { params: { id: span.id }, body })
    const wrapper = await show(FinishSheet, { props: { span, outcome, next, finish } })
    expect(wrapper.text()).toContain('1 of 2 items done, 1 still open')
    await choose(wrapper, 'Where YARD/1 goes', 'back to the backlog')
    await press(wrapper, 'Finish it')
    expect(asked.at(-1)!.body).toEqual({ to: 'it_2', others: [{ ref: 'YARD/1', to: null }] })
    expect(wrapper.emitted('finished')).toHaveLength(1)
    expect(control(wrapper, 'Where what is open goes').exists()).toBe(true)
  })
})
