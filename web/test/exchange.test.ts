import type { ImportAnswer } from '@bluestem/core/exchange'
import { flushPromises } from '@vue/test-utils'
import FileUpload from 'primevue/fileupload'
import { describe, expect, it, vi } from 'vitest'
import { decode } from '../src/exchange/decode.ts'
import ImportPage from '../src/exchange/ImportPage.vue'
import SubscribeSheet from '../src/exchange/SubscribeSheet.vue'
import UnknownChoices from '../src/exchange/UnknownChoices.vue'
import ExportMenu from '../src/exchange/ExportMenu.vue'
import { choose, control, press, type Searchable, serve, show, vocabulary } from './page.ts'

describe('the bytes of a file', () => {
  it.each([
    [[0xef, 0xbb, 0xbf, 0x61], 'a', 'UTF-8'],
    [[0xc3, 0xa4], 'ä', 'UTF-8'],
    [[0xe4, 0x21], 'ä!', 'Windows-1252'],
    [[0xff, 0xfe, 0xe4, 0x00], 'ä', 'UTF-16'],
    [[0xfe, 0xff, 0x00, 0xe4], 'ä', 'UTF-16'],
  ] as const)('%j are read as %j (%s)', (bytes, text, encoding) => {
    expect(decode(Uint8Array.from(bytes))).toEqual({ text, encoding })
  })
})

const file = (parts: Partial<ImportAnswer> = {}): ImportAnswer => ({
  id: 'im_1',
  project: 'pr_yard',
  name: 'jobs.csv',
  separator: ';',
  columns: [
    { heading: 'Typ', samples: ['Job'] },
    { heading: 'Bis', samples: ['1.3.2027'] },
  ],
  links: [{ target: 'link:lk_waits:out', words: 'waits for' }],
  rows: 3,
  reading: { columns: ['type', 'due'], key: null, days: 'DMY' },
  state: 'read',
  done: 0,
  counts: null,
  reason: null,
  ...parts,
})
const aLabel = {
  id: 'la_new',
  title: 'tidal',
  family: null,
  colour: 1,
  project: null,
  description: '',
  retired: false,
  version: 1,
}
const problem = { line: 3, column: 'Typ', message: 'There is no such type.', found: 'Jobb' }

describe('bringing a file in', () => {
  /** Chooses a file on the page. */
  async function page() {
    const wrapper = await show(ImportPage, { path: '/import?project=YARD' })
    const bytes = new TextEncoder().encode('Typ;Bis\nJob;1.3.2027\n')
    const given = { name: 'jobs.csv', arrayBuffer: () => Promise.resolve(bytes.buffer) }
    wrapper.findComponent(FileUpload).vm.$emit('uploader', { files: [given] })
    return wrapper
  }

  async function chosen(wrong: number) {
    const counts = { made: 2, changed: 0, same: 0, wrong }
    const asked = serve({
      'POST /imports': { status: 201, body: file() },
      'POST /imports/im_1/check': {
        body: {
          rows: 3,
          ...counts,
          links: 2,
          problems: wrong ? [problem] : [],
          problemCount: wrong,
          unknown: [],
        },
      },
      'POST /imports/im_1/carry-out': { status: 202, body: file({ state: 'waiting' }) },
      'GET /imports/im_1': { body: file({ state: 'done', done: 3, counts }) },
    })
    const wrapper = await page()
    await vi.waitFor(() => expect(wrapper.text()).toContain('would be made'), 5000)
    return { asked, wrapper }
  }

  it('says what the rows would do before anything is made, and brings all of them in', async () => {
    const { asked, wrapper } = await chosen(0)
    expect(asked.find(({ path }) => path === '/imports')!.body).toMatchObject({
      project: 'YARD',
      name: 'jobs.csv',
    })
    expect(wrapper.text()).toContain('3 rows, UTF-8')
    expect(wrapper.text()).toContain('2 links would be made')
    await press(wrapper, 'Bring in 2 items')
    await vi.waitFor(() => expect(wrapper.text()).toContain('2 items made'), 5000)
    expect(asked.find(({ path }) => path.endsWith('carry-out'))!.body).toEqual({ goodOnly: false })
  })

  it('tells how far the look at many rows is', async () => {
    serve({
      'POST /imports': { status: 201, body: file({ rows: 5000 }) },
      'GET /imports/im_1': { body: file({ rows: 5000, done: 4000 }) },
    })
    const answered = globalThis.fetch
    const never = new Promise<Response>(() => undefined)
    vi.stubGlobal('fetch', async (address: string, init: RequestInit) =>
      address.endsWith('/check') ? await never : await answered(address, init),
    )
    const wrapper = await page()
    await vi.waitFor(() => expect(wrapper.text()).toContain('4,000 of 5,000 rows'), 5000)
    expect(wrapper.get('[role=progressbar]').attributes('aria-valuenow')).toBe('80')
  })

  it('tells what is wrong, cell by cell, and offers the good rows alone', async () => {
    const { asked, wrapper } = await chosen(1)
    expect(wrapper.text()).toContain('1 row cannot come in')
    expect(wrapper.get('[aria-label="What is wrong"]').text()).toContain('There is no such type.')
    await press(wrapper, 'Bring in the 2 good rows alone')
    expect(asked.find(({ path }) => path.endsWith('carry-out'))!.body).toEqual({ goodOnly: true })
    await vi.waitFor(() => expect(wrapper.text()).toContain('1 row left out'), 5000)
  })

  it('offers to make what the file names and there is not', async () => {
    const unknown = [{ handle: 'labels', domain: 'label', value: 'deck: tidal', rows: 2 }]
    const asked = serve({
      'POST /labels': { status: 201, body: aLabel },
      'GET /vocabulary': { body: { ...vocabulary } },
    })
    const wrapper = await show(UnknownChoices, { props: { unknown, project: 'pr_yard' } })
    expect(wrapper.text()).toContain('deck: tidal')
    expect(wrapper.text()).toContain('2 rows')
    await press(wrapper, 'Make 1 of them')
    expect(asked[0]!.body).toEqual({ title: 'deck: tidal' })
    expect(wrapper.emitted('made')).toHaveLength(1)
  })

  it('takes a column for links of a kind', async () => {
    const { asked, wrapper } = await chosen(0)
    await choose(wrapper, 'Bis becomes', 'Link: waits for')
    await vi.waitFor(() =>
      expect(asked.filter(({ path }) => path.endsWith('check')).at(-1)!.body).toMatchObject({
        columns: ['type', 'link:lk_waits:out'],
      }),
    )
  })

  it('looks anew when a column becomes something else; no field stands twice', async () => {
    const { asked, wrapper } = await chosen(0)
    await choose(wrapper, 'Bis becomes', 'Type')
    await vi.waitFor(() =>
      expect(asked.filter(({ path }) => path.endsWith('check')).at(-1)!.body).toMatchObject({
        columns: [null, 'type'],
      }),
    )
  })
})

describe('taking answers out', () => {
  const order = [{ by: 'changed', direction: 'down' }]
  const props = { filter: true, columns: ['ref', 'title'], order, name: 'YARD' }
  async function take(wrapper: Searchable, form: string): Promise<void> {
    const entry = wrapper.findAll('[role=menuitem]').find((node) => node.text().includes(form))
    await entry!.get('a, .p-menu-item-content').trigger('click')
    await flushPromises()
  }

  it('asks for all of them in the columns and the order of the list', async () => {
    const asked = serve({ 'POST /items/export': { body: 'Ref,Title' } })
    const saved = vi.spyOn(HTMLAnchorElement.prototype, 'click').mockReturnValue()
    const wrapper = await show(ExportMenu, { props })
    await press(wrapper, 'Export')
    await take(wrapper, 'JSON')
    expect(saved).toHaveBeenCalledOnce()
    expect(asked[0]!.body).toEqual({
      filter: true,
      kept: true,
      format: 'json',
      fields: 'ref,title',
      sort: '-changed',
      title: props.name,
    })
  })

  it('shows any date of theirs as a calendar, or when they are due', async () => {
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockReturnValue()
    const asked = serve({ 'POST /items/export': { body: 'BEGIN:VCALENDAR' } })
    const wrapper = await show(ExportMenu, { props: { ...props, columns: ['ref', 'changed'] } })
    await press(wrapper, 'Export')
    await take(wrapper, 'calendar of Changed')
    const plain = await show(ExportMenu, { props })
    await press(plain, 'Export')
    await take(plain, 'calendar of Due')
    expect(asked.map(({ body }) => body)).toMatchObject([
      { format: 'icalendar', date: 'changed' },
      { format: 'icalendar', date: 'due' },
    ])
  })
})

describe('an address to subscribe to', () => {
  const old = {
    id: 'su_1',
    title: 'Stuck work',
    format: 'atom' as const,
    at: '2026-11-20T08:00:00Z',
    readAt: null,
  }
  const wanted = { filter: true, format: 'icalendar' as const, date: 'due', title: 'YARD: Due' }

  it('is shown once it is made, and those made before can be ended', async () => {
    const address = 'https://work.example/subscriptions/secret.ics'
    const asked = serve({
      'GET /subscriptions': { body: { subscriptions: [old] } },
      'POST /subscriptions': {
        status: 201,
        body: { ...old, id: 'su_2', title: 'YARD: Due', format: 'icalendar', address },
      },
      'DELETE /subscriptions/su_1': { status: 204 },
    })
    const wrapper = await show(SubscribeSheet, { props: { wanted } })
    expect(wrapper.text()).toContain('feed, not read yet')
    await press(wrapper, 'Make the address')
    expect((control(wrapper, 'The address').element as HTMLInputElement).value).toBe(address)
    expect(asked.find(({ method }) => method === 'POST')!.body).toEqual(wanted)
    await wrapper.get('[aria-label="End the address of Stuck work"]').trigger('click')
    await flushPromises()
    expect(asked.some(({ method }) => method === 'DELETE')).toBe(true)
  })
})
