import type { ReleaseAnswer, ReleasePlan } from '@bluestem/core/releases'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import PlanReleases from '../src/releases/PlanReleases.vue'
import ReleaseForm from '../src/releases/ReleaseForm.vue'
import ReleasePage from '../src/releases/ReleasePage.vue'
import ReleasesPage from '../src/releases/ReleasesPage.vue'
import { choose, control, press, rows, serve, show } from './page.ts'

const [yard, pier] = [
  { id: 'pr_yard', title: 'Fleet Yard', code: 'YARD' },
  { id: 'pr_pier', title: 'Piers and Shore', code: 'PIER' },
]
const release = (parts: Partial<ReleaseAnswer> = {}): ReleaseAnswer => ({
  id: 're_1',
  title: 'Refit 3',
  projects: [yard],
  start: '2026-10-01',
  end: '2026-12-18',
  goal: 'All anodes new',
  state: 'running',
  startedAt: '2026-10-01T08:00:00Z',
  finishedAt: null,
  items: 2,
  done: 1,
  version: 3,
  ...parts,
})
const sum = (refs: string[]): ReleasePlan['outcome']['inside'] => ({
  refs,
  sums: [],
  unestimated: 0,
})
const plan: ReleasePlan = {
  release: release(),
  outcome: {
    inside: sum(['YARD/1', 'YARD/2']),
    done: sum(['YARD/2']),
    open: sum(['YARD/1']),
    committed: sum(['YARD/1']),
    later: sum(['YARD/2']),
    left: sum([]),
  },
  next: [],
  mayPlan: true,
}
const nothing = { body: { items: [], total: 0, cannotTell: 0, next: null } }

describe('the releases', () => {
  it('stand with whose they are, and narrow to a project', async () => {
    serve({
      'GET /releases': {
        body: {
          releases: [
            release({ id: 're_2', title: 'Both', projects: [yard, pier], state: 'planned' }),
            release(),
          ],
        },
      },
      'GET /projects': { body: { projects: [] } },
    })
    const wrapper = await show(ReleasesPage)
    expect(rows(wrapper).map(([title, whose]) => [title, whose])).toEqual([
      ['Refit 3', 'YARD'],
      ['Both', 'YARD, PIER'],
    ])
  })

  it('are planned in a series that goes on from those of the same projects', async () => {
    const asked = serve({
      'POST /releases/series': { status: 201, body: { releases: [release()] } },
    })
    const wrapper = await show(PlanReleases, {
      props: { projects: [yard, pier], releases: [release()], project: 'pr_yard' },
    })
    expect(wrapper.text()).toContain('Refit 4')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked.at(-1)!.body).toEqual({
      name: 'Refit {n}',
      number: 4,
      projects: ['pr_yard'],
      first: '2026-12-19',
      weeks: 13,
      count: 4,
    })
  })

  it('tells at its field why one cannot be made', async () => {
    serve({
      'POST /releases': {
        status: 400,
        body: {
          title: 'Not valid',
          detail: 'There is one already.',
          errors: [{ pointer: '/title', message: 'There is a release “Refit 3” already.' }],
        },
      },
    })
    const wrapper = await show(ReleaseForm, { props: { projects: [yard] } })
    await control(wrapper, 'Name').setValue('Refit 3')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.text()).toContain('There is a release “Refit 3” already.')
    expect(wrapper.emitted('saved')).toBeUndefined()
  })
})

describe('one release', () => {
  it('lists what is in it beside what could come in, and is finished', async () => {
    const asked = serve({
      'GET /releases/re_1/plan': { body: plan },
      'POST /items/search': nothing,
      'POST /releases/re_1/finish': { body: release({ state: 'finished' }) },
    })
    const wrapper = await show(ReleasePage, { path: '/releases/re_1' })
    expect(wrapper.text()).toContain('All anodes new')
    expect(JSON.stringify(asked.map(({ body }) => body ?? null))).toContain('pr_yard')
    await press(wrapper, 'Finish …')
    await flushPromises()
    await choose(wrapper, 'Where what is open goes', 'stays here')
    await press(wrapper, 'Finish it')
    expect(asked.find(({ path }) => path.endsWith('/finish'))!.body).toEqual({
      to: 're_1',
      others: [],
    })
  })
})
