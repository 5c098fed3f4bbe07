import type { CommentAnswer } from '@bluestem/core/work'
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { changeItem, clashesOf, withTheirs } from '../src/work/changing.ts'
import ItemPage from '../src/work/ItemPage.vue'
import { anItem, someOffers } from './answers.ts'
import { press, serve, show, SpokenStream } from './page.ts'

beforeEach(() => {
  vi.stubGlobal('EventSource', SpokenStream)
})

const priority = (id: string) => ({ id, title: id })
const now = anItem({
  priority: priority('pi_stop'),
  labels: [priority('la_wet')],
  components: [priority('co_a'), priority('co_b')],
  description: 'Theirs',
  fields: { cost: 12 },
})

describe('what two people changed at once', () => {
  it.each<[string, Parameters<typeof clashesOf>[0], Parameters<typeof clashesOf>[1], string[]]>([
    ['nothing, where it is as it was', { priority: 'pi_late' }, { priority: 'pi_stop' }, []],
    ['the same value', { priority: 'pi_late' }, { priority: null }, ['priority']],
    ['nothing, where both gave the same', { priority: 'pi_stop' }, { priority: null }, []],
    ['a list', { labels: [] }, { labels: [] }, ['labels']],
    ['nothing, where a list is as it was', { labels: [] }, { labels: ['la_wet'] }, []],
    [
      'nothing, where a list has another order',
      { components: [] },
      { components: ['co_b', 'co_a'] },
      [],
    ],
    ['text', { description: 'Mine' }, { description: 'Before' }, ['description']],
    ['a field of one’s own', { fields: { cost: '9' } }, { fields: { cost: 11 } }, ['cost']],
    [
      'nothing, where a number is as it was',
      { fields: { cost: '9' } },
      { fields: { cost: 12 } },
      [],
    ],
    ['nothing that was not looked at', { on_hold: true, hold_reason: 'Parts' }, {}, []],
  ])('is %s', (_, given, seen, handles) => {
    expect(clashesOf(given, seen, now).map(({ handle }) => handle)).toEqual(handles)
  })

  it('clashes no more once it was seen', () => {
    const given = { description: 'Mine', fields: { cost: '9' } }
    const seen = { description: 'Before', fields: { cost: 11 } }
    expect(clashesOf(given, withTheirs(seen, clashesOf(given, seen, now)), now)).toEqual([])
  })
})

const lost = (words: string) => ({
  status: 412,
  body: {
    detail: 'Somebody changed this since you read it.',
    changed: [{ by: { title: 'Ilse Varga' }, words: [[{ text: words }]] }],
  },
})

describe('a change that somebody was faster than', () => {
  it('is made all the same where they changed something else', async () => {
    const asked = serve({
      'GET /items/YARD/1': { body: anItem({ etag: '"8"', priority: priority('pi_stop') }) },
      'PATCH /items/YARD/1': ({ headers }) =>
        headers['If-Match'] === '"8"' ? { body: anItem({ etag: '"9"' }) } : lost('raised it'),
    })
    const outcome = await changeItem(anItem(), { title: 'Mine' }, { title: 'Ramp hinge weeps' })
    expect(outcome.ok).toBe(true)
    expect(asked.map(({ method }) => method)).toEqual(['PATCH', 'GET', 'PATCH'])
  })

  it('is not made where they changed the same', async () => {
    serve({
      'GET /items/YARD/1': { body: anItem({ etag: '"8"', title: 'Theirs' }) },
      'PATCH /items/YARD/1': lost('renamed it'),
    })
    const outcome = await changeItem(anItem(), { title: 'Mine' }, { title: 'Ramp hinge weeps' })
    expect(outcome).toMatchObject({
      ok: false,
      words: 'Ilse Varga renamed it',
      clashes: [{ handle: 'title', mine: 'Mine', theirs: 'Theirs' }],
    })
  })
})

describe('the page of an item that somebody changes while one writes', () => {
  const comments: readonly CommentAnswer[] = []
  let described = 'The pin is worn.'
  const answers = () =>
    serve({
      'GET /items/YARD/1': () => ({
        body: anItem({ description: described, project: { id: 'pr_yard', title: 'Fleet Yard' } }),
      }),
      'GET /items/YARD/1/history': { body: { versions: [] } },
      'GET /items/YARD/1/comments': { body: { comments: [...comments] } },
      'GET /items/YARD/1/links': { body: { links: [] } },
      'GET /items/YARD/1/followers': { body: { followers: [], isFollowed: false } },
      'POST /items/YARD/1/looked': { body: { before: null } },
      'GET /projects/YARD/offers': { body: someOffers() },
      'PATCH /items/YARD/1': { body: anItem() },
    })

  async function writing() {
    described = 'The pin is worn.'
    const wrapper = await show({ template: '<RouterView />' }, { role: 'member' })
    wrapper.router.addRoute({ path: '/work/:code/:number(\\d+)', component: ItemPage })
    await wrapper.router.push('/work/YARD/1')
    await flushPromises()
    await press(wrapper, 'rewrite')
    await wrapper.get('textarea').setValue('The pin is worn and loose.')
    described = 'The pin is worn and rusty.'
    SpokenStream.tell('item', 'YARD/1')
    await flushPromises()
    expect((wrapper.get('textarea').element as HTMLTextAreaElement).value).toContain('loose')
    await press(wrapper, 'Keep')
    return wrapper
  }

  it('writes over nothing, and shows both with their difference', async () => {
    const asked = answers()
    const wrapper = await writing()
    const sheet = document.querySelector('[role=dialog]')!
    expect(sheet.textContent).toContain('Changed by two at once')
    expect(sheet.querySelector('ins')?.textContent).toBe('loose')
    expect(sheet.querySelector('del')?.textContent).toBe('rusty')
    await press(wrapper, 'Keep theirs')
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([])
  })

  it('takes one’s own where one says so', async () => {
    const asked = answers()
    await press(await writing(), 'Take mine')
    expect(asked.find(({ method }) => method === 'PATCH')!.body).toEqual({
      description: 'The pin is worn and loose.',
    })
  })
})
