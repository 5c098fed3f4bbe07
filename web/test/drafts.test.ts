import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import DroppedDrafts from '../src/definitions/editions/DroppedDrafts.vue'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import { useDefinitions } from '../src/definitions/store/definitions.store.ts'
import { aChange } from './answers.ts'
import { draft, shown } from './defined.ts'
import { press } from './page.ts'

describe('a draft one holds', () => {
  const mine = { ...draft, mayPublish: true, proposed: false }

  it('asks first, and says whose changes go with it', async () => {
    const changes = [aChange(), aChange({ id: 'ch_2', by: 'Tom Okafor' }), aChange({ id: 'ch_3' })]
    const { wrapper, asked } = await shown(
      DraftStrip,
      {},
      { [`DELETE /definitions/drafts/${mine.id}`]: { status: 204 } },
      [{ ...mine, changes }],
    )
    await press(wrapper, 'Drop')
    expect(wrapper.get('[role=dialog]').text()).toContain(
      '2 changes by Mara Thiel, 1 change by Tom Okafor go with it.',
    )
    expect(asked.some((request) => request.method === 'DELETE')).toBe(false)
    await press(wrapper, 'Drop it')
    expect(asked.some((request) => request.method === 'DELETE')).toBe(true)
  })

  it('asks nothing where the draft holds nothing', async () => {
    const { wrapper, asked } = await shown(
      DraftStrip,
      {},
      { [`DELETE /definitions/drafts/${mine.id}`]: { status: 204 } },
      [{ ...mine, changes: [] }],
    )
    await press(wrapper, 'Drop')
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
    expect(asked.some((request) => request.method === 'DELETE')).toBe(true)
  })

  it('is never fallen into by another’s changes: an edit begins one’s own', async () => {
    const theirs = { ...draft, id: 'dr_o', title: 'Tidier words', mine: false, by: 'Ilse Varga' }
    const { wrapper, asked } = await shown(DraftStrip, {}, {}, [theirs])
    expect(wrapper.text()).toContain('what is in force')
    expect(wrapper.text()).toContain('1 draft of others')
    const definitions = useDefinitions()
    await definitions.edit([{ path: ['statuses', 'st_open', 'title'], after: 'Known' }])
    await flushPromises()
    expect(
      asked
        .filter((request) => request.method !== 'GET')
        .map((request) => `${request.method} ${request.path}`),
    ).toEqual(['POST /definitions/drafts', 'PATCH /definitions/drafts/dr_1'])
  })

  it('is begun under a name, and named anew', async () => {
    const { wrapper, asked } = await shown(DraftStrip)
    await press(wrapper, 'New draft …')
    await wrapper.get('[role=dialog] input').setValue('Surveyor before sign-off')
    await wrapper.findAll('[role=dialog] input[type=radio]')[1]!.setValue(true)
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.method === 'POST')!.body).toEqual({
      title: 'Surveyor before sign-off',
      shared: false,
    })
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
  })

  it('leaves it among those that can be taken back', async () => {
    const dropped = [
      {
        id: 'dr_old',
        title: 'Better words',
        count: 2,
        by: 'Mara Thiel',
        at: '2026-11-24T10:00:00Z',
      },
    ]
    const { wrapper, asked } = await shown(
      DroppedDrafts,
      {},
      {
        'GET /definitions/dropped-drafts': { body: { drafts: dropped } },
        'POST /definitions/dropped-drafts/dr_old/take-back': { body: mine },
      },
    )
    expect(wrapper.get('tbody tr').text()).toContain('Better words')
    await wrapper.get('[aria-label="Take back Better words"]').trigger('click')
    await flushPromises()
    expect(
      asked.some((request) => request.path === '/definitions/dropped-drafts/dr_old/take-back'),
    ).toBe(true)
  })
})
