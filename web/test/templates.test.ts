import { describe, expect, it } from 'vitest'
import TemplatesChapter from '../src/definitions/templates/TemplatesChapter.vue'
import { nextKey, withoutChild } from '../src/definitions/templates/template.ts'
import { living, shown } from './defined.ts'
import { press } from './page.ts'

describe('templates', () => {
  it('say what is stale, and are mended', async () => {
    const { wrapper, asked } = await shown(
      TemplatesChapter,
      {},
      { 'POST /templates/te_1/mend': { body: living.templates[0] } },
    )
    expect(wrapper.text()).toContain('“Old Harbour” is no longer offered in “Berth”.')
    expect(wrapper.get('a[href="/work/YARD?make=te_1"]').text()).toBe('Fleet Yard')
    await press(wrapper, 'Mend it')
    expect(asked.find((request) => request.path.endsWith('/mend'))!.headers).toMatchObject({
      'If-Match': '"2"',
    })
  })

  it('lose a child whole: what stood below it goes up, and its links go', () => {
    const node = (key: string, under?: string) => ({
      key,
      title: key,
      type: 'ty_a',
      values: {},
      fields: {},
      ...(under ? { under } : {}),
    })
    const content = {
      item: { title: 'top', type: 'ty_a', values: {}, fields: {} },
      children: [node('c1'), node('c2', 'c1'), node('c3', 'c2')],
      links: [
        { kind: 'lk_a', from: 'c2', to: 'c3' },
        { kind: 'lk_a', from: 'c1', to: 'c3' },
      ],
    }
    expect(withoutChild(content, 'c2')).toEqual({
      item: content.item,
      children: [node('c1'), node('c3', 'c1')],
      links: [content.links[1]],
    })
    expect([nextKey(content.children), nextKey([node('c2')])]).toEqual(['c4', 'c3'])
  })
})
