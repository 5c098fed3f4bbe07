import { definitionsAnswer } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { emptyDocument } from '@bluestem/core/definitions'
import { starters, takeOver } from '@bluestem/core/starters'
import StartChapter from '../src/definitions/start/StartChapter.vue'
import { nextStep, type Progress, stepsOf } from '../src/definitions/start/steps.ts'
import { draft, shown } from './defined.ts'
import { isDisabled, press } from './page.ts'

const nothing: Progress = {
  document: emptyDocument,
  isPublished: false,
  projects: [],
  people: 1,
  queries: 0,
  views: 0,
  dashboards: 0,
}

describe('the steps of setting up', () => {
  it('lead from nothing to a working tracker, each open once what it rests on is there', async () => {
    const document = takeOver(emptyDocument, await starters[0]!.load())
    const course: [Partial<Progress>, ReturnType<typeof nextStep>][] = [
      [{}, 'rulebook'],
      [{ document }, 'rulebook'],
      [{ isPublished: true }, 'project'],
      [{ projects: ['Harbour'] }, 'people'],
      [{ people: 3 }, 'query'],
      [{ queries: 1 }, 'view'],
      [{ views: 1 }, 'dashboard'],
      [{ dashboards: 1 }, undefined],
    ]
    let progress = nothing
    for (const [more, next] of course) {
      progress = { ...progress, ...more }
      expect(nextStep(stepsOf(progress)), JSON.stringify(more)).toBe(next)
    }
    expect(
      stepsOf(nothing)
        .filter((step) => !step.isOpen)
        .map((step) => step.key),
    ).toEqual(['project', 'query', 'view', 'dashboard'])
    expect(stepsOf({ ...nothing, document })[0]!.words).toBe(
      'Repairs and upkeep: 5 types, 6 statuses, 4 priorities, 9 fields. It waits in a draft: publish it before a project follows it',
    )
  })
})

describe('setting up', () => {
  const empty = {
    'GET /definitions': {
      body: definitionsAnswer({ document: emptyDocument }),
    },
    'GET /projects': { body: { projects: [] } },
    'GET /queries': { body: { queries: [] } },
    'GET /views': { body: { views: [] } },
    'GET /dashboards': { body: { dashboards: [] } },
  }

  it('takes a starter over into a draft, by two acts', async () => {
    const { wrapper, asked } = await shown(
      StartChapter,
      {},
      { ...empty, 'POST /definitions/drafts': { status: 201, body: draft } },
    )
    await vi.waitFor(() => expect(wrapper.text()).toContain('5 types, 7 statuses'))
    expect(isDisabled(wrapper, 'New project')).toBe(true)
    await wrapper.get('[aria-label="See and take over: Requests and cases"]').trigger('click')
    await vi.waitFor(() => expect(wrapper.get('[role=dialog]').text()).toContain('First answer'))
    await press(wrapper, 'Take it over')
    await flushPromises()
    const taken = asked.find((request) => request.method === 'POST')!.body as {
      title: string
      edits: { path: string[]; after: unknown }[]
    }
    expect(taken.title).toBe('Requests and cases')
    expect(taken.edits.map((edit) => edit.path.join('/'))).toContain('rulebooks/rb_reqmain')
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
  })
})
