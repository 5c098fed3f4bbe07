import { emptyDocument } from '@bluestem/core/definitions'
import { aLabel, anItem, aQuery, aView, definitionsAnswer } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import Find from '../src/app/Find.vue'
import { serve, show } from './page.ts'

describe('finding anything', () => {
  const status = (title: string) => ({
    order: 'a0',
    title,
    phase: 'idle' as const,
    queue: false,
    description: '',
  })
  const answers = () =>
    serve({
      'GET /queries': { body: { queries: [aQuery('qu_1', 'Ramps')] } },
      'GET /views': { body: { views: [aView('vi_1', 'Yard board')] } },
      'GET /dashboards': { body: { dashboards: [] } },
      'GET /definitions': {
        body: definitionsAnswer({
          document: {
            ...emptyDocument,
            statuses: {
              st_ramped: status('On the ramp'),
              st_gone: { ...status('Ramped'), retired: true },
            },
          },
        }),
      },
      'GET /labels': { body: { labels: [aLabel()] } },
      'POST /items/search': {
        body: {
          items: [anItem({ ref: 'YARD/12', title: 'Ramp hinge' })],
          total: 1,
          cannotTell: 0,
          next: null,
        },
      },
    })

  it('looks through items, queries, views, dashboards and definitions, and opens the one chosen by keyboard', async () => {
    vi.useFakeTimers()
    const asked = answers()
    const wrapper = await show(Find)
    const box = wrapper.get('input')
    await box.trigger('focus')
    await box.setValue('ramp')
    await vi.advanceTimersByTimeAsync(200)
    vi.useRealTimers()
    await flushPromises()
    expect(wrapper.findAll('li').map((line) => line.text())).toEqual([
      'queryRamps',
      'statusOn the ramp',
      'labelramp',
      'YARD/12Ramp hinge',
    ])
    expect(asked.find((request) => request.method === 'POST')!.body).toMatchObject({
      filter: "CASEI(title) LIKE CASEI('%ramp%')",
    })
    const type = async (code: string): Promise<void> =>
      await box.trigger('keydown', { key: code, code })
    for (let step = 0; step < 3; step += 1) await type('ArrowDown')
    expect(wrapper.get('[data-p-focused=true]').text()).toBe('YARD/12Ramp hinge')
    await type('Enter')
    await flushPromises()
    expect(wrapper.router.currentRoute.value.path).toBe('/work/YARD/12')
  })

  it('finds the chapters, and what only administrators begin where one is', async () => {
    for (const [role, found] of [
      ['administrator', ['chapterRulebooks', 'actMake a new project']],
      ['viewer', ['chapterRulebooks']],
    ] as const) {
      vi.useFakeTimers()
      answers()
      const wrapper = await show(Find, { role })
      const seen: string[] = []
      for (const written of ['rulebooks', 'new project']) {
        await wrapper.get('input').setValue(written)
        await vi.advanceTimersByTimeAsync(200)
        seen.push(...wrapper.findAll('li').map((line) => line.text()))
      }
      vi.useRealTimers()
      expect(seen.filter((text) => !text.startsWith('YARD'))).toEqual(found)
      wrapper.unmount()
    }
  })

  it('takes signs of the pattern language as they are, and a ref as a ref', async () => {
    vi.useFakeTimers()
    const asked = answers()
    const wrapper = await show(Find)
    for (const [written, filter] of [
      ["50% o'clock", "CASEI(title) LIKE CASEI('%50\\% o''clock%')"],
      ['yard/12', "ref = 'YARD/12'"],
    ]) {
      await wrapper.get('input').setValue(written!)
      await vi.advanceTimersByTimeAsync(200)
      expect(
        (asked.findLast((request) => request.method === 'POST')!.body as { filter: string }).filter,
      ).toBe(filter)
    }
    vi.useRealTimers()
  })
})
