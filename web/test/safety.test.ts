import { definitionsAnswer, noUse, saved, summaryOf } from './answers.ts'
import { emptyDocument, replaceAt } from '@bluestem/core/definitions'
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { call, partsOf } from '../src/api/http.ts'
import { isLive, onChange } from '../src/api/live.ts'
import ConsistencyPage from '../src/consistency/ConsistencyPage.vue'
import FieldForm from '../src/definitions/fields/FieldForm.vue'
import StatusForm from '../src/definitions/flows/StatusForm.vue'
import TypeForm from '../src/definitions/types/TypeForm.vue'
import { useDefinitions } from '../src/definitions/store/definitions.store.ts'
import { endOfStep, spanOf } from '../src/dashboards/measures.ts'
import { agoWords, dayWords, momentWords } from '../src/parts/words.ts'
import { clockText, dayIn, momentAt, setZone } from '../src/session/zone.ts'
import { document_, draft, sentEdits, shown } from './defined.ts'
import { serve, show } from './page.ts'

afterEach(() => {
  setZone('UTC')
})

describe('in a workspace where nothing is defined yet', () => {
  const nothing = {
    'GET /definitions': {
      body: definitionsAnswer({ document: emptyDocument }),
    },
  }

  it('the first type makes the first rulebook, which offers it', async () => {
    const { wrapper, asked } = await shown(TypeForm, { props: { id: 'new' } }, nothing)
    const [title, letters] = wrapper.findAll('input[type=text]')
    await title!.setValue('Task')
    await letters!.setValue('Ta')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const [book, type, offered] = sentEdits(asked)
    expect(book).toMatchObject({
      path: ['rulebooks', expect.stringMatching(/^rb_/)],
      after: { title: 'Our work', extends: null, entries: {} },
      before: null,
    })
    expect(offered).toMatchObject({
      path: ['rulebooks', book!.path[1], 'entries', `type:${type!.path[1]}`],
      after: {},
    })
  })

  it('the first status of a flow is where items start', async () => {
    const bare = replaceAt(
      replaceAt(
        emptyDocument,
        ['types', 'ty_task'],
        document_.types['ty_job'] ?? Object.values(document_.types)[0],
      ),
      ['rulebooks', 'rb_all'],
      {
        order: 'a',
        title: 'Our work',
        description: '',
        extends: null,
        entries: { 'type:ty_task': {} },
      },
    )
    const { wrapper, asked } = await shown(
      StatusForm,
      { props: { id: 'new', type: 'ty_task' } },
      {
        'GET /definitions': {
          body: definitionsAnswer({ document: bare }),
        },
      },
    )
    await wrapper.get('input[type=text]').setValue('To do')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const edits = sentEdits(asked)
    const made = edits[0]!.path[1]!
    expect(edits.slice(1).map((edit) => [edit.path[3], edit.after])).toEqual([
      [`status:ty_task:${made}`, expect.anything()],
      ['type:ty_task', { start: made }],
    ])
  })
})

describe('what a form sends', () => {
  it('is only what was changed in it, as it stood when the form was opened, whatever others put in the draft meanwhile', async () => {
    const { wrapper } = await shown(FieldForm, { props: { id: 'fi_cost' } }, {}, [draft])
    const definitions = useDefinitions()
    const changed = {
      ...draft,
      etag: '"9"',
      document: replaceAt(
        draft.document,
        ['fields', 'fi_cost', 'description'],
        'Said by somebody else.',
      ),
    }
    serve({
      'GET /definitions/drafts': { body: { drafts: [summaryOf(changed)] } },
      'GET /definitions/drafts/dr_1': { body: changed },
      'GET /definitions': {
        body: definitionsAnswer({ document: document_ }),
      },
      'GET /definitions/usage': { body: noUse },
      'GET /definitions/boards': { body: { boards: [], unplaced: [] } },
    })
    await definitions.load()
    const later = serve({ 'PATCH /definitions/drafts/dr_1': { body: changed } })
    await wrapper.findAll('input[type=text]')[0]!.setValue('Price of parts')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(sentEdits(later)).toEqual([
      { path: ['fields', 'fi_cost', 'title'], after: 'Price of parts', before: 'Cost of parts' },
    ])
    expect(later.at(-1)!.headers['If-Match'] ?? later.at(-1)!.headers['if-match']).toBe('*')
  })
})

describe('days and times are the workspace’s, wherever the browser is', () => {
  it.each([
    ['Pacific/Auckland', '2026-11-26', '2026-11-26T01:30'],
    ['America/Los_Angeles', '2026-11-25', '2026-11-25T04:30'],
    ['UTC', '2026-11-25', '2026-11-25T12:30'],
  ])('in %s', (zone, day, clock) => {
    setZone(zone)
    const moment = new Date('2026-11-25T12:30:00Z')
    expect([dayIn(moment), clockText(moment), momentAt(clock).toISOString()]).toEqual([
      day,
      clock,
      '2026-11-25T12:30:00.000Z',
    ])
    expect([spanOf(1, moment).to, endOfStep(['2026-11-24'], 0, moment)]).toEqual([day, day])
  })

  it('and a day alone is that day everywhere', () => {
    setZone('Pacific/Auckland')
    const now = new Date('2026-11-25T12:30:00Z')
    expect([
      dayWords('2026-11-25', now),
      momentWords('2026-11-25T12:30:00Z', now),
      agoWords('2026-11-25T10:00:00Z', now),
      agoWords('2026-11-25T12:00:00Z', now),
    ]).toEqual(['25 Nov', '26 Nov 01:30', 'yesterday', 'today'])
  })

  it('a time that clocks show twice is the earlier of the two', () => {
    setZone('Europe/Zurich')
    expect(momentAt('2026-10-25T02:30').toISOString()).toBe('2026-10-25T00:30:00.000Z')
    expect(clockText(momentAt('2026-03-29T02:30'))).toMatch(/^2026-03-29T0[13]:30$/)
  })
})

describe('a server that is busy or away', () => {
  it('is asked again when it says so, and a change never is', async () => {
    vi.useFakeTimers()
    let tries = 0
    vi.stubGlobal('fetch', () =>
      Promise.resolve(
        (tries += 1) < 3
          ? new Response('{"detail":"Busy"}', { status: 503, headers: { 'retry-after': '2' } })
          : new Response('{"items":[]}', { status: 200 }),
      ),
    )
    const read = call('POST /items/search', { body: {} })
    await vi.advanceTimersByTimeAsync(4100)
    await expect(read).resolves.toMatchObject({ items: [] })
    tries = 0
    await expect(
      call('PATCH /items/{code}/{number}', { params: partsOf('YARD/1'), body: {} }),
    ).rejects.toThrow('Busy')
    expect(tries).toBe(1)
  })
})

describe('the stream of changes', () => {
  class Stream extends EventTarget {
    static readonly CLOSED = 2
    static readonly opened: Stream[] = []
    readyState = 1
    constructor() {
      super()
      Stream.opened.push(this)
    }
    close(): void {
      this.readyState = 2
    }
  }

  it('says while nothing is heard, begins anew after a refusal, and has everything read anew after too long', async () => {
    vi.useFakeTimers()
    vi.stubGlobal('EventSource', Stream)
    const heard: string[] = []
    const stop = onChange(({ kind }) => heard.push(kind))
    const first = Stream.opened.at(-1)!
    first.dispatchEvent(new Event('away'))
    expect(isLive.value).toBe(false)
    first.dispatchEvent(new Event('back'))
    first.dispatchEvent(new Event('reload'))
    expect([isLive.value, heard]).toEqual([true, ['everything']])
    first.readyState = 2
    first.dispatchEvent(new Event('error'))
    await vi.advanceTimersByTimeAsync(5100)
    expect([isLive.value, Stream.opened.at(-1) === first]).toEqual([false, false])
    Stream.opened.at(-1)!.dispatchEvent(new Event('open'))
    expect(isLive.value).toBe(true)
    stop()
  })
})

describe('consistency', () => {
  it('tells one board that cannot be shown, and shows the others', async () => {
    const content = {
      query: 'qu_1',
      kind: 'board',
      columns: [],
      order: [],
      group: null,
      board: { by: 'status', columns: [], cards: [], finishedWithin: null },
    }
    serve({
      'GET /views': {
        body: {
          views: [
            saved('vi_list', 'vi_list', { ...content, kind: 'list' }),
            saved('vi_broken', 'vi_broken', { ...content, query: 'qu_gone' }),
            saved('vi_well', 'vi_well', content),
          ],
        },
      },
      'GET /queries': { body: { queries: [] } },
      'POST /views/arrange': ({ body }) =>
        (body as { view: { query: string } }).view.query === 'qu_gone'
          ? { status: 404, body: { detail: 'There is no query.' } }
          : {
              body: {
                query: { id: 'qu_1', title: 'Open work' },
                filter: true,
                cannotTell: 0,
                total: 3,
                columns: [],
                elsewhere: [
                  { value: 'st_open', count: 3, shown: { id: 'st_open', title: 'Open' } },
                ],
                shown: 0,
                finishedLongAgo: 0,
                finishedBefore: null,
              },
            },
    })
    const wrapper = await show(ConsistencyPage)
    await flushPromises()
    expect(wrapper.text()).toMatch(
      /vi_wellOpen3 items[^]*Boards that cannot be shownvi_brokenThere is no query\./,
    )
    expect(wrapper.text()).not.toContain('vi_list')
  })
})
