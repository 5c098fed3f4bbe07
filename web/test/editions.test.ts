import AuditChapter from '../src/definitions/audit/AuditChapter.vue'
import { aChange } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import DefinitionsFile from '../src/definitions/editions/DefinitionsFile.vue'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import ReviewPage from '../src/definitions/draft/ReviewPage.vue'
import EditionsChapter from '../src/definitions/editions/EditionsChapter.vue'
import { draft, shown } from './defined.ts'
import { choose, isDisabled, press } from './page.ts'

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
    expect(asked.filter((request) => request.method === 'POST').at(-1)).toMatchObject({
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
    expect(asked.some((request) => request.path === '/definitions/import')).toBe(false)
    await press(wrapper, 'Open a draft with 1 change')
    expect(asked.some((request) => request.path === '/definitions/import')).toBe(true)
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
    expect(asked.findLast((request) => request.method === 'PATCH')!.body).toEqual({
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
    expect(asked.find((request) => request.path.endsWith('/rebase'))!.body).toEqual({
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
