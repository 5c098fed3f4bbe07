import type { ItemAnswer, VocabularyAnswer } from '@bluestem/core/queries'
import type { VersionAnswer } from '@bluestem/core/work'
import { describe, expect, it } from 'vitest'
import ItemPast from '../src/work/ItemPast.vue'
import { differencesOf, givingOf } from '../src/work/past.ts'
import { anItem } from './answers.ts'
import { show, vocabulary } from './page.ts'

const property = (handle: string): VocabularyAnswer['properties'][number] =>
  vocabulary.properties.find((property) => property.handle === handle)!
const car = { id: 'la_car', title: 'car deck', mark: 2 }
const tom = { id: 'pe_tom', title: 'Tom Okafor' }

describe('what an item held at an earlier moment', () => {
  it('is told where it differs from now, of what is given to an item alone', () => {
    const then = anItem({
      title: 'Ramp',
      assignee: tom,
      labels: [car],
      fields: { cost: 4 },
    })
    const now = anItem({ assignee: null, labels: [], fields: { cost: 9 } })
    const found = differencesOf(then, now, vocabulary.properties)
    expect(
      found.map((pastDifference) => [
        pastDifference.property.handle,
        pastDifference.then,
        pastDifference.now,
      ]),
    ).toEqual([
      ['title', 'Ramp', 'Ramp hinge weeps'],
      ['assignee', tom, null],
      ['labels', [car], []],
      ['cost', 4, 9],
    ])
  })
  it('is the same where a list is empty or missing, and whatever the titles are by now', () => {
    const then = anItem({
      labels: [],
      status: { id: 'st_open', title: 'New', mark: 'idle' },
    })
    expect(
      differencesOf(then as ItemAnswer, anItem() as ItemAnswer, vocabulary.properties),
    ).toEqual([])
  })
  it.each([
    ['assignee', tom, { assignee: 'pe_tom' }],
    ['assignee', null, { assignee: null }],
    ['labels', [car], { labels: ['la_car'] }],
    ['labels', null, { labels: [] }],
    ['due', '2026-12-01', { due: '2026-12-01' }],
    ['cost', 4, { fields: { cost: 4 } }],
    ['crew', [tom], { fields: { crew: ['pe_tom'] } }],
  ])('%s %j is given back as %j', (handle, value, expected) => {
    expect(givingOf(property(handle), value)).toEqual(expected)
  })

  const version = (from: string, parts: object): VersionAnswer => ({
    from,
    to: null,
    by: { kind: 'person', title: 'Tom Okafor' } as VersionAnswer['by'],
    words: [],
    state: anItem(parts),
  })
  const versions = [
    version('2026-11-24T08:00:00Z', {}),
    version('2026-10-01T08:00:00Z', { title: 'Ramp' }),
    version('2026-09-01T08:00:00Z', { title: 'Hinge' }),
  ]
  it('is looked at by keys on the slider, and had back with a way to undo that', async () => {
    const wrapper = await show(ItemPast, { props: { versions, item: anItem(), mayRestore: true } })
    expect(wrapper.text()).toContain('as it is now')
    await wrapper.get('[role=slider]').trigger('keydown', { code: 'ArrowLeft' })
    expect(wrapper.text()).toContain('As of 1 Oct')
    await wrapper.get('[aria-label="Restore Title"]').trigger('click')
    expect(wrapper.emitted('restore')).toEqual([[{ title: 'Ramp' }, { title: 'Ramp hinge weeps' }]])
  })
  it('offers nothing to whoever may only look', async () => {
    const wrapper = await show(ItemPast, { props: { versions, item: anItem(), mayRestore: false } })
    await wrapper.get('[role=slider]').trigger('keydown', { code: 'ArrowLeft' })
    expect(wrapper.find('[aria-label="Restore Title"]').exists()).toBe(false)
  })
})
